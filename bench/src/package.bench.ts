// A package of 300 recordings, 2 GB: copied into a turnover's folder with checksums, and against zip -0 of the same files. And the ZIP that is sent, which is never written.
import { execFileSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, rmSync, writeFileSync, writeSync, openSync, closeSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import type { Readable } from 'node:stream'
import type { KeptFile } from '@yodel/core'
import { makePool } from '../../apps/server/src/processes/threads.js'
import type { FileOrder, FileSums } from '../../apps/server/src/turnover/make/fileWorker.js'
import { AT_ONCE } from '../../apps/server/src/turnover/make/packSounds.js'
import { sendZip } from '../../apps/server/src/turnover/kept/sendZip.js'
import { report } from './report.js'

const FILES = 300
const SIZE = Math.round(2e9 / FILES)
const folder = mkdtempSync(path.join(tmpdir(), 'yodel-package-'))
const [from, to] = [path.join(folder, 'from'), path.join(folder, 'to')]
for (const place of [from, path.join(to, 'sounds')]) mkdirSync(place, { recursive: true })
const noise = Buffer.alloc(1 << 20)
for (let i = 0; i < noise.length; i += 4) noise.writeInt32LE(Math.floor((Math.random() - 0.5) * 2 ** 32), i)
const names = Array.from({ length: FILES }, (_, index) => `${index}.wav`)
for (const name of names) {
  const file = openSync(path.join(from, name), 'w')
  for (let left = SIZE; left > 0; left -= noise.length)
    writeSync(file, noise, 0, Math.min(left, noise.length))
  closeSync(file)
}
const megabytes = (FILES * SIZE) / 1e6

// As the server copies them: in its threads, as many at once.
const pool = makePool<FileOrder, FileSums>('turnover/make/fileWorker')
const files: KeptFile[] = []
const begun = performance.now()
for (let first = 0; first < names.length; first += AT_ONCE)
  await Promise.all(
    names.slice(first, first + AT_ONCE).map(async (name, some) => {
      const out = path.join(to, 'sounds', name)
      writeFileSync(out, '')
      const sums = await pool.run({ do: 'copy', file: path.join(from, name), out })
      files[first + some] = { path: `sounds/${name}`, kind: 'sound', title: name, ...sums }
    }),
  )
const copied = (performance.now() - begun) / 1000

await pool.destroy()

const sendBegun = performance.now()
const before = process.memoryUsage().rss
let [most, sent] = [before, 0]
const noReply = {
  type: () => noReply,
  header: () => noReply,
  code: () => noReply,
  send: (body: unknown) => body,
}
const body = sendZip(
  { headers: {} } as never,
  noReply as never,
  { id: 'b', at: new Date(), files },
  to,
  'b.zip',
)
for await (const piece of body as unknown as Readable) {
  sent += (piece as Buffer).length
  most = Math.max(most, process.memoryUsage().rss)
}
const sending = (performance.now() - sendBegun) / 1000

const peerBegun = performance.now()
execFileSync('zip', ['-0', '-q', '-r', path.join(folder, 'peer.zip'), '.'], { cwd: from })
const peer = (performance.now() - peerBegun) / 1000
rmSync(folder, { recursive: true })
report({
  ...{
    name: 'package.make',
    value: megabytes / copied,
    unit: 'MB/s: copied with SHA-256 and CRC-32 (ratio at least 0.8)',
  },
  ...{ peer: 'zip -0', ratio: peer / copied },
})
report({
  name: 'package.send',
  value: sent / 1e6 / sending,
  unit: 'MB/s: the ZIP as it is sent',
  peer: 'zip -0',
  ratio: peer / sending,
})
report({ name: 'package.memory', value: (most - before) / 1e6, unit: 'MB more while 2 GB are sent' })

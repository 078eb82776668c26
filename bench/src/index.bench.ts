// Indexing 5,000 short WAV files: reading what they say (peer: one ffprobe process a file), and listening to them.
import { execFileSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { wavHeader } from '@yodel/core'
import { makeShelf } from '../../apps/server/src/sounds/shelves.js'
import { indexShelf } from '../../apps/server/src/sounds/indexShelf.js'
import { readTags } from '../../apps/server/src/sounds/readTags.js'
import { realServer } from '../../e2e/support/server.js'
import { seededRandom } from './library.js'
import { ownServices } from './ownServices.js'
import { report } from './report.js'

const FILES = Number(process.env['YODEL_BENCH_FILES'] ?? 5000)
const PROBED = 100
const BLANK = {
  description: '',
  originator: 'Bench',
  originatorReference: '',
  date: '2026-01-01',
  time: '00:00:00',
  timeReference: 0,
  codingHistory: '',
}
const random = seededRandom(2)
const root = mkdtempSync(path.join(tmpdir(), 'yodel-index-'))
const folder = path.join(root, 'short')
mkdirSync(folder)
let audio = 0
const files: { path: string; size: number; mtimeMs: number }[] = []
for (let index = 0; index < FILES; index++) {
  const channels = index % 3 === 0 ? 2 : 1
  const length = Math.round(48_000 * (0.5 + 2 * random()))
  audio += length / 48_000
  const head = wavHeader({
    channels,
    sampleRate: 48_000,
    bits: 24,
    length,
    bext: { ...BLANK, description: `Blow number ${index}` },
  })
  const bytes = Buffer.alloc(head.length + length * channels * 3)
  bytes.set(head)
  const pitch = 0.02 + random() * 0.2
  for (let i = 0, at = head.length; i < length; i++)
    for (let c = 0; c < channels; c++, at += 3) {
      const value = Math.round(4e6 * Math.exp(-i / 9000) * (Math.sin(i * pitch) + 0.3 * (random() - 0.5)))
      bytes[at] = value & 255
      bytes[at + 1] = (value >> 8) & 255
      bytes[at + 2] = (value >> 16) & 255
    }
  const name = `HITS_Blow${index}.wav`
  writeFileSync(path.join(folder, name), bytes)
  files.push({ path: name, size: bytes.length, mtimeMs: index })
}

const readBegun = performance.now()
for (let at = 0; at < files.length; at += 8)
  await Promise.all(files.slice(at, at + 8).map((file) => readTags({ ffprobe: 'ffprobe' }, folder, file)))
const readRate = files.length / ((performance.now() - readBegun) / 1000)
const probeBegun = performance.now()
for (const file of files.slice(0, PROBED))
  execFileSync('ffprobe', [
    '-v',
    'error',
    '-show_format',
    '-show_streams',
    '-of',
    'json',
    path.join(folder, file.path),
  ])
const probeRate = PROBED / ((performance.now() - probeBegun) / 1000)
report({
  name: 'index.metadata',
  value: readRate,
  unit: 'files/s',
  peer: `one ffprobe process a file, ${probeRate.toFixed(0)} files/s`,
  ratio: readRate / probeRate,
})

const server = await realServer({ demo: false })
const { db, services, close } = await ownServices(server.databaseUrl, root)
const shelf = await makeShelf(db, folder, 'Short')
const memory: number[] = []
const watching = setInterval(() => memory.push(process.memoryUsage().rss / 2 ** 20), 200)
const begun = performance.now()
let firstPass = 0
const counts = await indexShelf(services, shelf.id, {
  id: 'bench',
  signal: new AbortController().signal,
  progress: (_, message) => {
    if (firstPass === 0 && message?.startsWith('Heard')) firstPass = (performance.now() - begun) / 1000
  },
})
clearInterval(watching)
const seconds = (performance.now() - begun) / 1000
report({
  name: 'index.found',
  value: FILES / firstPass,
  unit: 'files/s until they can be found, database included',
})
report({ name: 'index.whole', value: FILES / seconds, unit: 'files/s with qualities and outlines' })
report({ name: 'index.listening', value: audio / (seconds - firstPass), unit: 'x real time, two cores' })
const half = memory.slice(Math.floor(memory.length / 2))
report({
  name: 'index.memory',
  value: Math.max(...half) - Math.min(...memory.slice(Math.floor(memory.length / 4))),
  unit: 'MB grown over the last three quarters',
})
if (counts.fresh !== FILES || counts.problems > 0) throw new Error(`indexed ${JSON.stringify(counts)}`)
await close()
await server.close()
rmSync(root, { recursive: true, force: true })

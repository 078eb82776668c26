import { execFileSync } from 'node:child_process'
import { closeSync, mkdtempSync, openSync, rmSync, writeSync, ftruncateSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { crc32 } from 'node:zlib'
import { afterAll, describe, expect, it } from 'vitest'
import { zipLayout, type ZipEntry } from './zip.js'

const folder = mkdtempSync(path.join(tmpdir(), 'yodel-zip-'))
afterAll(() => rmSync(folder, { recursive: true }))
const MODIFIED = { year: 2031, month: 5, day: 9, hour: 14, minute: 3, second: 22 }

/** Writes what a layout says; content of null is a hole of zeros. */
function write(name: string, entries: readonly ZipEntry[], contents: readonly (Buffer | null)[]): string {
  const file = path.join(folder, name)
  const { pieces, size } = zipLayout(entries, MODIFIED)
  const handle = openSync(file, 'w')
  ftruncateSync(handle, size)
  for (const piece of pieces) {
    const bytes = 'bytes' in piece ? piece.bytes : contents[piece.entry]
    if (bytes) writeSync(handle, bytes, 0, bytes.length, piece.at)
  }
  closeSync(handle)
  return file
}
const entryOf = (name: string, content: Buffer): ZipEntry => ({
  ...{ path: name, size: content.length, crc32: crc32(content) },
})
const listing = (file: string): string => execFileSync('unzip', ['-lv', file]).toString()

describe('a ZIP of stored files', () => {
  it('is whole to unzip, with names of any script, empty files and times', () => {
    const contents = [Buffer.from('hello'), Buffer.alloc(0), Buffer.alloc(70_000, 7)]
    const names = ['lists/Käfig 門 𠮷.txt', 'empty', 'sounds/a.wav']
    const file = write(
      'small.zip',
      contents.map((content, i) => entryOf(names[i]!, content)),
      contents,
    )
    expect(execFileSync('unzip', ['-t', file]).toString()).toMatch(/No errors detected/)
    // Python's own reader is the second one.
    const script = `import zipfile,sys; z=zipfile.ZipFile(sys.argv[1]); print([(i.filename,i.file_size,i.date_time) for i in z.infolist()])`
    const told = execFileSync('python3', ['-c', script, file]).toString()
    expect(told).toContain("('lists/Käfig 門 𠮷.txt', 5, (2031, 5, 9, 14, 3, 22))")
    expect(told).toContain("('empty', 0, ")
  })

  it('beyond 4 GiB, and with more than 65,535 files, is a ZIP64 that others read', () => {
    const large = 2 ** 32 + 10
    const hole: ZipEntry = { path: 'large.bin', size: large, crc32: 0 }
    const after = Buffer.from('after')
    const file = write('large.zip', [hole, entryOf('after.txt', after)], [null, after])
    expect(listing(file)).toMatch(new RegExp(`${large}.*large\\.bin`))
    expect(execFileSync('unzip', ['-p', file, 'after.txt']).toString()).toBe('after')
    const many = Array.from({ length: 65_540 }, (_, i): ZipEntry => entryOf(`f${i}`, Buffer.alloc(0)))
    const script = `import zipfile,sys; print(len(zipfile.ZipFile(sys.argv[1]).namelist()))`
    const crowd = write(
      'many.zip',
      many,
      many.map(() => null),
    )
    expect(execFileSync('python3', ['-c', script, crowd]).toString().trim()).toBe('65540')
  })

  it('has no gap and no overlap', () => {
    const { pieces, size } = zipLayout(
      [entryOf('a', Buffer.from('x')), entryOf('b', Buffer.from('yy'))],
      MODIFIED,
    )
    let at = 0
    for (const piece of pieces) {
      expect(piece.at).toBe(at)
      at += 'bytes' in piece ? piece.bytes.length : piece.size
    }
    expect(at).toBe(size)
  })
})

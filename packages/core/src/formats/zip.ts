/** A file that goes into a ZIP as it is, not compressed. */
export interface ZipEntry {
  /** Path in the archive, with slashes. */
  readonly path: string
  /** Bytes. */
  readonly size: number
  /** CRC-32 of its content (ISO 3309), unsigned. */
  readonly crc32: number
}

/** A stretch of a ZIP: bytes of its own, or the content of the entry with a number. */
export type ZipPiece =
  | { readonly at: number; readonly bytes: Uint8Array }
  | { readonly at: number; readonly entry: number; readonly size: number }

/** Beyond these a number no longer fits where old ZIPs hold it, and ZIP64 is needed. */
const MOST = { size: 0xffff_ffff, count: 0xffff } as const
const VERSION = { plain: 20, zip64: 45 } as const
/** General purpose bit 11: names are UTF-8. */
const UTF8 = 0x0800

/**
 * Lays a ZIP of stored files out: what stands at which byte, so that any stretch of it can be sent before, or without,
 * ever being written (PKWARE APPNOTE 6.3.9, sections 4.3 and 4.5.3).
 *
 * @param modified - Local time that all entries carry.
 * @returns Pieces in order without gaps, and the size of the whole.
 */
export function zipLayout(
  entries: readonly ZipEntry[],
  modified: { year: number; month: number; day: number; hour: number; minute: number; second: number },
): { readonly pieces: ZipPiece[]; readonly size: number } {
  const date = ((modified.year - 1980) << 9) | (modified.month << 5) | modified.day
  const time = (modified.hour << 11) | (modified.minute << 5) | (modified.second >> 1)
  const pieces: ZipPiece[] = []
  const directory: Uint8Array[] = []
  let at = 0
  for (const [entry, file] of entries.entries()) {
    const offset = at
    const head = localHeader(file, date, time)
    pieces.push({ at, bytes: head })
    at += head.length
    if (file.size > 0) pieces.push({ at, entry, size: file.size })
    at += file.size
    directory.push(centralHeader(file, date, time, offset))
  }
  const start = at
  const size = directory.reduce((sum, bytes) => sum + bytes.length, 0)
  const bytes = joined([...directory, ...endOf(entries.length, start, size)])
  pieces.push({ at, bytes })
  return { pieces, size: at + bytes.length }
}

/** Writes little-endian numbers one after the other. */
class Fields {
  private readonly bytes: number[] = []

  u16(...values: number[]): this {
    for (const value of values) this.bytes.push(value & 0xff, (value >>> 8) & 0xff)
    return this
  }

  u32(...values: number[]): this {
    for (const value of values) this.u16(value % 65_536, Math.floor(value / 65_536))
    return this
  }

  u64(...values: number[]): this {
    for (const value of values) this.u32(value % 2 ** 32, Math.floor(value / 2 ** 32))
    return this
  }

  then(...more: Uint8Array[]): Uint8Array {
    return joined([Uint8Array.from(this.bytes), ...more])
  }
}

function localHeader({ path, size, crc32 }: ZipEntry, date: number, time: number): Uint8Array {
  const name = utf8(path)
  const large = size >= MOST.size
  const extra = large ? new Fields().u16(1, 16).u64(size, size).then() : new Uint8Array(0)
  const stated = large ? MOST.size : size
  return new Fields()
    .u32(0x0403_4b50)
    .u16(large ? VERSION.zip64 : VERSION.plain, UTF8, 0, time, date)
    .u32(crc32, stated, stated)
    .u16(name.length, extra.length)
    .then(name, extra)
}

function centralHeader(
  { path, size, crc32 }: ZipEntry,
  date: number,
  time: number,
  offset: number,
): Uint8Array {
  const name = utf8(path)
  const large = size >= MOST.size
  const far = offset >= MOST.size
  const numbers = [...(large ? [size, size] : []), ...(far ? [offset] : [])]
  const extra =
    numbers.length > 0
      ? new Fields()
          .u16(1, 8 * numbers.length)
          .u64(...numbers)
          .then()
      : new Uint8Array(0)
  const version = numbers.length > 0 ? VERSION.zip64 : VERSION.plain
  const stated = large ? MOST.size : size
  return new Fields()
    .u32(0x0201_4b50)
    .u16(version, version, UTF8, 0, time, date)
    .u32(crc32, stated, stated)
    .u16(name.length, extra.length, 0, 0, 0)
    .u32(0, far ? MOST.size : offset)
    .then(name, extra)
}

function endOf(count: number, start: number, size: number): Uint8Array[] {
  const large = count >= MOST.count || start >= MOST.size || size >= MOST.size
  const zip64 = new Fields()
    .u32(0x0606_4b50)
    .u64(44)
    .u16(VERSION.zip64, VERSION.zip64)
    .u32(0, 0)
    .u64(count, count, size, start)
    .then()
  const locator = new Fields()
    .u32(0x0706_4b50, 0)
    .u64(start + size)
    .u32(1)
    .then()
  const most = Math.min(count, MOST.count)
  const end = new Fields()
    .u32(0x0605_4b50)
    .u16(0, 0, most, most)
    .u32(Math.min(size, MOST.size), Math.min(start, MOST.size))
    .u16(0)
    .then()
  return large ? [zip64, locator, end] : [end]
}

function joined(parts: readonly Uint8Array[]): Uint8Array {
  const all = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0))
  let at = 0
  for (const part of parts) {
    all.set(part, at)
    at += part.length
  }
  return all
}

/** UTF-8 of a text (RFC 3629). */
function utf8(text: string): Uint8Array {
  const bytes: number[] = []
  for (const letter of text) {
    const point = letter.codePointAt(0) ?? 0
    if (point < 0x80) bytes.push(point)
    else if (point < 0x800) bytes.push(0xc0 | (point >> 6), 0x80 | (point & 63))
    else if (point < 0x1_0000)
      bytes.push(0xe0 | (point >> 12), 0x80 | ((point >> 6) & 63), 0x80 | (point & 63))
    else
      bytes.push(
        ...[
          0xf0 | (point >> 18),
          0x80 | ((point >> 12) & 63),
          0x80 | ((point >> 6) & 63),
          0x80 | (point & 63),
        ],
      )
  }
  return Uint8Array.from(bytes)
}

import { createReadStream } from 'node:fs'
import path from 'node:path'
import { Readable } from 'node:stream'
import { zipLayout, type KeptFile, type ZipPiece } from '@yodel/core'
import type { FastifyReply, FastifyRequest } from 'fastify'
import { AppError } from '../../errors.js'

const PIECE = 1024 * 1024

/**
 * Sends a turnover as one ZIP that is never written anywhere: it is made of its files as it goes. Any stretch of it can be
 * asked for (RFC 9110, section 14), so that a download goes on where a line broke.
 */
export function sendZip(
  request: FastifyRequest,
  reply: FastifyReply,
  turnover: { readonly id: string; readonly at: Date; readonly files: readonly KeptFile[] },
  folder: string,
  name: string,
): FastifyReply {
  const { at } = turnover
  const modified = {
    ...{ year: at.getUTCFullYear(), month: at.getUTCMonth() + 1, day: at.getUTCDate() },
    ...{ hour: at.getUTCHours(), minute: at.getUTCMinutes(), second: at.getUTCSeconds() },
  }
  const { pieces, size } = zipLayout(turnover.files, modified)
  const range = rangeOf(request.headers.range, size)
  if (range === 'none') {
    reply.header('content-range', `bytes */${size}`)
    throw new AppError('RANGE', `The package has ${size} bytes; nothing of it was asked for.`)
  }
  const [from, to] = range ?? [0, size]
  reply
    .type('application/zip')
    .header('accept-ranges', 'bytes')
    .header('etag', `"${turnover.id}"`)
    .header('content-length', to - from)
    .header('content-disposition', `attachment; filename*=UTF-8''${encodeURIComponent(name)}`)
  if (range) reply.code(206).header('content-range', `bytes ${from}-${to - 1}/${size}`)
  return reply.send(Readable.from(bytesOf(pieces, turnover.files, folder, from, to), { objectMode: false }))
}

/** The stretch `[from, to)` that a header asks for; null for all of it, `none` where there is no such. Several at once are not served. */
export function rangeOf(header: string | undefined, size: number): readonly [number, number] | null | 'none' {
  const [, first = '', last = ''] = /^bytes=(\d*)-(\d*)$/.exec(header ?? '') ?? []
  if (first === '' && last === '') return null
  if (first === '') return last === '0' ? 'none' : [Math.max(0, size - Number(last)), size]
  const to = last === '' ? size : Math.min(size, Number(last) + 1)
  return Number(first) < to ? [Number(first), to] : 'none'
}

async function* bytesOf(
  pieces: readonly ZipPiece[],
  files: readonly KeptFile[],
  folder: string,
  from: number,
  to: number,
): AsyncGenerator<Uint8Array> {
  for (const piece of pieces) {
    const size = 'bytes' in piece ? piece.bytes.length : piece.size
    const [start, end] = [Math.max(0, from - piece.at), Math.min(size, to - piece.at)]
    if (start >= end) continue
    if ('bytes' in piece) {
      yield piece.bytes.subarray(start, end)
      continue
    }
    const file = path.join(folder, files[piece.entry]?.path ?? '')
    let sent = 0
    for await (const bytes of createReadStream(file, { start, end: end - 1, highWaterMark: PIECE })) {
      sent += (bytes as Buffer).length
      yield bytes as Buffer
    }
    // A file that has become shorter must not shift what follows it: the download breaks off.
    if (sent !== end - start) throw new Error(`${file} is shorter than the turnover says`)
  }
}

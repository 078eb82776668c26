import type {} from '@fastify/multipart'
import { createWriteStream } from 'node:fs'
import { stat } from 'node:fs/promises'
import path from 'node:path'
import type { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import type { FastifyRequest } from 'fastify'
import { AppError, isDiskFull, reasonOf } from '../errors.js'

/** A file that is being sent: the name it had where it comes from (without folders or control characters), and its bytes as they come. */
export interface Upload {
  readonly name: string
  readonly stream: Readable & { readonly truncated?: boolean }
}

/**
 * The file that a request brings.
 *
 * @param what - What it should be ("sheet"), for the refusal and for a file without a name.
 * @throws AppError `BAD_REQUEST` when there is none, or what was sent is no form at all
 */
export async function uploadOf(request: FastifyRequest, what: string): Promise<Upload> {
  const part = await request.file().catch((error: unknown) => {
    throw brokenOff(what, error)
  })
  if (!part)
    throw new AppError('BAD_REQUEST', `No ${what} came with the upload; choose a file and send it again.`)
  const name = path.basename(part.filename || what).replace(/\p{Cc}/gu, '')
  return { name: name || what, stream: part.file }
}

/**
 * Writes an upload to a file as it comes.
 *
 * @returns its size in bytes
 * @throws AppError `BAD_REQUEST` when it breaks off, `UPLOAD_EMPTY`, `UPLOAD_TOO_LARGE`; the error of a full disk as it is
 */
export async function saveUpload({ name, stream }: Upload, file: string): Promise<number> {
  await pipeline(stream, createWriteStream(file)).catch((error: unknown) => {
    throw isDiskFull(error) ? error : brokenOff(name, error)
  })
  if (stream.truncated)
    throw new AppError(
      'UPLOAD_TOO_LARGE',
      `${name} is larger than an upload may be. Put it into a folder of YODEL_SOUND_ROOTS and pick it from there.`,
    )
  const { size } = await stat(file)
  if (size === 0)
    throw new AppError(
      'UPLOAD_EMPTY',
      `${name} is empty. Export it again, or check that the copy had finished.`,
    )
  return size
}

const brokenOff = (what: string, error: unknown): AppError =>
  new AppError('BAD_REQUEST', `The upload of ${what} broke off (${reasonOf(error)}); send it again.`)

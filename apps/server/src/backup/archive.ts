import { spawn } from 'node:child_process'
import { createHash } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { stat } from 'node:fs/promises'
import path from 'node:path'
import { z } from 'zod'

/** Names of what a backup holds beside media. */
export const MANIFEST = 'yodel-backup.json'
/** The database, as pg_dump writes it. */
export const DUMP = 'database.dump'

const fileSchema = z.object({
  path: z
    .string()
    .min(1)
    .refine((name) => !path.isAbsolute(name) && !name.split('/').includes('..'), 'leads out of the folder'),
  size: z.int().min(0),
  sha256: z.string().length(64),
})

/** What a backup says of itself: where its data folder was, what belongs to it, how far each reel's log goes. */
export const manifestSchema = z.object({
  format: z.literal('yodel-backup'),
  version: z.literal(1),
  made: z.string(),
  dataDir: z.string(),
  dump: fileSchema,
  media: z.array(fileSchema),
  reels: z.array(z.object({ id: z.string(), seq: z.int() })),
})

/** A backup's manifest. */
export type Manifest = z.infer<typeof manifestSchema>
/** A file of a backup. */
export type BackupFile = z.infer<typeof fileSchema>

/** Size and SHA-256 of a file. @param root - Folder from which `name` is told */
export async function describeFile(root: string, name: string): Promise<BackupFile> {
  const file = path.join(root, name)
  const hash = createHash('sha256')
  for await (const piece of createReadStream(file)) hash.update(piece as Buffer)
  return { path: name, size: (await stat(file)).size, sha256: hash.digest('hex') }
}

/**
 * Runs a program that has to succeed.
 *
 * @param input - What it is given on its standard input.
 * @returns what it wrote
 * @throws Error with what it complained about
 */
export async function runProgram(command: string, args: readonly string[], input = ''): Promise<string> {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { stdio: ['pipe', 'pipe', 'pipe'] })
    const pieces: Buffer[] = []
    let said = ''
    child.stdout.on('data', (piece: Buffer) => pieces.push(piece))
    child.stderr.on('data', (piece: Buffer) => (said = (said + piece.toString()).slice(-2000)))
    child.stdin.on('error', () => undefined)
    child.stdin.end(input)
    child.on('error', (error) => reject(new Error(`${command} can't be run: ${error.message}`)))
    child.on('close', (code) =>
      code === 0
        ? resolve(Buffer.concat(pieces).toString())
        : reject(new Error(`${path.basename(command)}: ${said.trim() || `ended with ${code}`}`)),
    )
  })
}

/** A program of PostgreSQL, from the folder that YODEL_PG_BIN names or from the PATH. */
export const postgresProgram = (name: string): string => path.join(process.env['YODEL_PG_BIN'] ?? '', name)

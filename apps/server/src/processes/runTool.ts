import { spawn } from 'node:child_process'
import path from 'node:path'
import { dieWithUs, NOT_FOUND } from './dieWithUs.js'

/** How a child process is run. */
export interface ToolOptions {
  readonly timeoutMs: number
  /** Folder in which it works; that of this process when left out. */
  readonly cwd?: string
  readonly signal?: AbortSignal
  /** Called with each piece of standard output; without it the output is collected and returned. */
  readonly onData?: (piece: Buffer) => void
}

const OUTPUT_LIMIT = 64 * 1024 * 1024

/**
 * Runs a program without a shell: ffmpeg, ffprobe, a voice.
 *
 * @returns Collected standard output (empty when `onData` takes it).
 * @throws Error with the last lines of what the program complained about, or that it took too long.
 */
export async function runTool(
  command: string,
  args: readonly string[],
  options: ToolOptions,
): Promise<Buffer> {
  return new Promise((resolve, reject) => {
    const child = spawn(...dieWithUs(command, args), {
      stdio: ['ignore', 'pipe', 'pipe'],
      ...(options.cwd === undefined ? {} : { cwd: options.cwd }),
    })
    const pieces: Buffer[] = []
    let size = 0
    let complaint = ''
    let ended: Error | null = null
    const stop = (why: Error): void => {
      ended ??= why
      child.kill('SIGKILL')
      // What it has started itself may live on and hold these open.
      child.stdout.destroy()
      child.stderr.destroy()
    }
    const timer = setTimeout(
      () => stop(new Error(`took longer than ${Math.round(options.timeoutMs / 1000)} s`)),
      options.timeoutMs,
    )
    const onAbort = (): void => stop(new Error('cancelled'))
    options.signal?.addEventListener('abort', onAbort, { once: true })
    if (options.signal?.aborted) onAbort()
    child.stdout.on('data', (piece: Buffer) => {
      size += piece.length
      if (!options.onData && size > OUTPUT_LIMIT) return stop(new Error('said far more than expected'))
      try {
        if (options.onData) options.onData(piece)
        else pieces.push(piece)
      } catch (error) {
        stop(error instanceof Error ? error : new Error(String(error)))
      }
    })
    child.stderr.on('data', (piece: Buffer) => {
      complaint = (complaint + piece.toString()).slice(-2000)
    })
    const ours = /^ff(mpeg|probe)$/.test(path.basename(command))
    const notInstalled = (): Error =>
      new Error(`${command} is not installed${ours ? '; install ffmpeg or set YODEL_FFMPEG_DIR' : ''}`)
    child.on('error', (error: NodeJS.ErrnoException) => {
      ended ??= error.code === 'ENOENT' ? notInstalled() : error
    })
    child.on('close', (code) => {
      clearTimeout(timer)
      options.signal?.removeEventListener('abort', onAbort)
      if (ended) reject(ended)
      else if (code === NOT_FOUND) reject(notInstalled())
      else if (code !== 0) reject(new Error(lastLine(complaint) || `${command} ended with ${code}`))
      else resolve(Buffer.concat(pieces))
    })
  })
}

/** What a program complained about, in its last line. */
function lastLine(text: string): string {
  if (text.includes('Format not on whitelist'))
    return 'it is neither a movie nor a recording, but text or a list that names other files'
  // ffmpeg begins its lines with the component's address, which helps nobody.
  const lines = text.split('\n').map((line) => line.replace(/^\[[^\]]*\]\s*/, '').trim())
  return lines.findLast((line) => line !== '' && !/^Last message repeated/.test(line)) ?? ''
}

/** What movies and recordings come in. Whatever can name other files is left out: lists to play, concatenations, numbered images, scripts. */
const CONTAINERS = [
  ...[
    'wav',
    'w64',
    'aiff',
    'caf',
    'au',
    'flac',
    'ogg',
    'mp3',
    'aac',
    'ape',
    'wv',
    'tta',
    'tak',
    'mpc',
    'mpc8',
  ],
  ...['amr', 'ac3', 'eac3', 'dts', 'voc', 'sox'],
  ...[
    'mov',
    'mp4',
    'matroska',
    'webm',
    'avi',
    'mxf',
    'mxf_opatom',
    'mpeg',
    'mpegts',
    'mpegvideo',
    'asf',
    'flv',
  ],
  ...['dv', 'gxf', 'nut', 'ivf', 'h264', 'hevc', 'm4v', 'lxf'],
]

/** Names a local file so that neither its name (a leading dash, a protocol) nor its content (a list of other files) can lead the tools elsewhere. */
export function inputArgs(file: string): string[] {
  return ['-protocol_whitelist', 'file,pipe', '-format_whitelist', CONTAINERS.join(','), '-i', `file:${file}`]
}

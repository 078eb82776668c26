import { spawn } from 'node:child_process'

/** How a child process is run. */
export interface ToolOptions {
  readonly timeoutMs: number
  readonly signal?: AbortSignal
  /** Called with each piece of standard output; without it the output is collected and returned. */
  readonly onData?: (piece: Buffer) => void
}

const OUTPUT_LIMIT = 64 * 1024 * 1024

/**
 * Runs ffmpeg or ffprobe without a shell.
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
    const child = spawn(command, args, { stdio: ['ignore', 'pipe', 'pipe'] })
    const pieces: Buffer[] = []
    let size = 0
    let complaint = ''
    let ended: Error | null = null
    const stop = (why: Error): void => {
      ended ??= why
      child.kill('SIGKILL')
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
    child.on('error', (error: NodeJS.ErrnoException) => {
      ended ??=
        error.code === 'ENOENT'
          ? new Error(`${command} is not installed; install ffmpeg or set YODEL_FFMPEG_DIR`)
          : error
    })
    child.on('close', (code) => {
      clearTimeout(timer)
      options.signal?.removeEventListener('abort', onAbort)
      if (ended) reject(ended)
      else if (code !== 0) reject(new Error(lastLine(complaint) || `${command} ended with ${code}`))
      else resolve(Buffer.concat(pieces))
    })
  })
}

function lastLine(text: string): string {
  // ffmpeg begins its lines with the component's address, which helps nobody.
  const lines = text.split('\n').map((line) => line.replace(/^\[[^\]]*\]\s*/, '').trim())
  return lines.filter((line) => line !== '').pop() ?? ''
}

/** Names a local file so that neither a leading dash nor a protocol in its name can mislead the tools. */
export function inputArgs(file: string): string[] {
  return ['-protocol_whitelist', 'file,pipe', '-i', `file:${file}`]
}

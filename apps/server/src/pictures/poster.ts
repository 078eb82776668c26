import { open, readFile, rename, rm, stat, writeFile } from 'node:fs/promises'
import path from 'node:path'
import { AppError } from '../errors.js'
import type { MediaStore } from '../media/MediaStore.js'
import { inputArgs, runTool } from '../processes/runTool.js'
import type { Settings } from '../settings.js'
import { PROXY_FILES } from './makeProxy.js'

/** Where in a movie its poster is looked for: past leader and titles. */
const PLACE = 0.35
const TIMEOUT_MS = 30_000

/**
 * A frame that stands for a picture, as a JPEG in its folder; made from the proxy when it is first asked for.
 *
 * @throws AppError `NOT_FOUND` while the picture is not ready
 */
export async function makePoster(
  { media, settings }: { readonly media: MediaStore; readonly settings: Settings },
  id: string,
): Promise<void> {
  const folder = await media.folder('pictures', id)
  const out = path.join(folder, PROXY_FILES.poster)
  if (await stat(out).catch(() => null)) return
  await media.once(out, async () => {
    const bytes = await readFile(path.join(folder, PROXY_FILES.index)).catch(() => {
      throw new AppError('NOT_FOUND', 'The picture is still being prepared.')
    })
    const starts = new Float64Array(Uint8Array.from(bytes).buffer)
    const frame = Math.max(0, Math.min(starts.length - 2, Math.round((starts.length - 1) * PLACE)))
    const [from, to] = [starts[frame] as number, starts[frame + 1] as number]
    const piece = Buffer.alloc(to - from)
    const proxy = await open(path.join(folder, PROXY_FILES.video))
    await proxy.read(piece, 0, piece.length, from).finally(() => proxy.close())
    // Every frame of the proxy is a key frame: one alone is a movie.
    const single = `${out}.h264.new`
    await writeFile(single, piece)
    try {
      const args = [...inputArgs(single), '-frames:v', '1', '-vf', 'scale=352:-2', '-q:v', '4']
      await runTool(
        settings.ffmpeg,
        ['-nostdin', '-v', 'error', '-y', ...args, '-f', 'mjpeg', `file:${out}.new`],
        {
          timeoutMs: TIMEOUT_MS,
        },
      )
      await rename(`${out}.new`, out)
    } finally {
      await rm(single, { force: true })
    }
  })
}

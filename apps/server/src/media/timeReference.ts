import { open } from 'node:fs/promises'
import { readBext, SAMPLE_RATE } from '@yodel/core'

/** Bytes at the head of a WAV file in which its `bext` is looked for. */
const HEAD_BYTES = 65_536

/** Samples at 48 kHz since midnight of a Broadcast WAV's first; 0 for other files. */
export async function timeReferenceOf(file: string, sampleRate: number): Promise<number> {
  if (!/\.(wav|bwf|rf64)$/i.test(file)) return 0
  const handle = await open(file, 'r').catch(() => null)
  if (!handle) return 0
  try {
    const { buffer, bytesRead } = await handle.read(Buffer.alloc(HEAD_BYTES), 0, HEAD_BYTES, 0)
    const bext = readBext(buffer.subarray(0, bytesRead))
    return bext ? Math.round((bext.timeReference * SAMPLE_RATE) / sampleRate) : 0
  } finally {
    await handle.close()
  }
}

import { SAMPLE_RATE } from '@yodel/core'
import { isDiskFull, reasonOf } from '../errors.js'
import type { Settings } from '../settings.js'
import { inputArgs, runTool } from '../processes/runTool.js'

const DECODE_TIMEOUT_MS = 30 * 60 * 1000
/** Silence after a stretched sound: its length is good to a few samples only, and a clip may ask for its last. */
const MARGIN = 'apad=pad_len=4800'
const BEFORE = ['-nostdin', '-hide_banner', '-v', 'error']
const AFTER = ['-ar', String(SAMPLE_RATE), '-f', 'f32le', '-']

/**
 * Decodes a file's first sound stream to interleaved 32-bit floats at 48 kHz, mono or stereo
 * (more channels are mixed down), handing it on in whole sample frames as it comes.
 *
 * @param channels - 1 or 2, as probed.
 * @param stretch - How many times as fast, its pitch kept (0.25 to 4; ffmpeg's atempo); 1 is as it is.
 * @returns Sample frames decoded.
 * @throws Error with the decoder's reason; also when nothing at all could be decoded.
 */
export async function decodeSound(
  settings: Pick<Settings, 'ffmpeg'>,
  file: string,
  channels: 1 | 2,
  onFrames: (interleaved: Float32Array) => void,
  stretch = 1,
): Promise<number> {
  const frameBytes = 4 * channels
  let rest = Buffer.alloc(0)
  let frames = 0
  const decode = (mixing: readonly string[]): Promise<unknown> =>
    runTool(settings.ffmpeg, [...BEFORE, ...inputArgs(file), '-map', '0:a:0', '-vn', ...mixing, ...AFTER], {
      timeoutMs: DECODE_TIMEOUT_MS,
      onData: (piece) => {
        const bytes = rest.length > 0 ? Buffer.concat([rest, piece]) : piece
        const whole = bytes.length - (bytes.length % frameBytes)
        rest = Buffer.from(bytes.subarray(whole))
        if (whole === 0) return
        const copy = new Uint8Array(whole)
        copy.set(bytes.subarray(0, whole))
        frames += whole / frameBytes
        onFrames(new Float32Array(copy.buffer))
      },
    })
  // One step of atempo stretches to a half at most; at a quarter there are two.
  const tempo =
    stretch === 1
      ? []
      : stretch < 0.5
        ? ['-af', `atempo=0.5,atempo=${stretch / 0.5},${MARGIN}`]
        : ['-af', `atempo=${stretch},${MARGIN}`]
  await decode(['-ac', String(channels), ...tempo]).catch(async (cause: unknown) => {
    const error = new Error(reasonOf(cause).replace(`file:${file}: `, ''), { cause })
    if (frames > 0 || stretch !== 1 || isDiskFull(cause)) throw error
    // More channels than any layout of loudspeakers can't be mixed down by rule: the first ones are taken.
    await decode(['-af', `pan=${channels}c|c0=c0${channels === 2 ? '|c1=c1' : ''}`]).catch(() => {
      throw error
    })
  })
  if (frames === 0) throw new Error('The file holds no sound that can be decoded.')
  return frames
}

import { Readable } from 'node:stream'
import { setImmediate } from 'node:timers/promises'
import {
  packSamples24,
  prepareSound,
  renderAlone,
  SAMPLE_RATE,
  voiceAlone,
  wavHeader,
  type PlanVoice,
  type Preparation,
  type Sound,
} from '@yodel/core'
import { findSource } from '../media/findSource.js'
import type { Pcm } from '../media/MediaStore.js'
import type { Services } from '../services.js'
import { PcmReader } from '../turnover/audio/PcmReader.js'

/** A WAV file that is made while it is sent. */
export interface WavOut {
  /** Its length in bytes. */
  readonly bytes: number
  readonly stream: Readable
}

/** Blocks that are rendered before whoever else waits has a turn. */
const BLOCKS_A_TURN = 400

/**
 * A sound as it is prepared, as it would be placed: its part, fades, gain, speed, direction, sides and channels.
 * 48 kHz and 24 bits; 32-bit floating point where it goes over full scale, so that nothing of it is cut off.
 *
 * @throws AppError where its recording can't be read
 */
export async function preparedWav(
  { db, media, clock }: Pick<Services, 'db' | 'media' | 'clock'>,
  sound: Sound,
  preparation: Preparation,
): Promise<WavOut> {
  const voice = voiceAlone(prepareSound(sound, preparation))
  const source = await findSource(db, voice.mediaId)
  const pcm = await media.pcm(source)
  const channels = pcm.channels === 1 || preparation.sides === 'summed' ? 1 : 2
  let peak = 0
  for await (const block of rendered(voice, pcm, channels))
    for (const sample of block) peak = Math.max(peak, Math.abs(sample))
  const bits = peak < 1 ? 24 : 32
  const length = voice.end - voice.start
  const [date = '', time = ''] = clock().toISOString().split(/[T.]/)
  const header = wavHeader({
    ...{ channels, bits, length, sampleRate: SAMPLE_RATE },
    bext: {
      description: [sound.name, sound.source, sound.licence].filter(Boolean).join('; '),
      ...{ originator: 'Yodel', originatorReference: sound.id, date, time, timeReference: 0 },
      codingHistory: '',
    },
  })
  const size = (length * channels * bits) / 8
  async function* file(): AsyncGenerator<Uint8Array> {
    yield header
    for await (const block of rendered(voice, pcm, channels))
      yield bits === 24
        ? packSamples24(block, peak).bytes
        : new Uint8Array(block.buffer, block.byteOffset, block.byteLength)
    if (size % 2 === 1) yield new Uint8Array(1)
  }
  return { bytes: header.length + size + (size % 2), stream: Readable.from(file()) }
}

async function* rendered(voice: PlanVoice, pcm: Pcm, channels: 1 | 2): AsyncGenerator<Float32Array> {
  const reader = new PcmReader(pcm.file, pcm.channels)
  let blocks = 0
  try {
    for (const block of renderAlone(voice, (_, at) => reader.block(at), channels)) {
      if (++blocks % BLOCKS_A_TURN === 0) await setImmediate()
      yield block
    }
  } finally {
    reader.close()
  }
}

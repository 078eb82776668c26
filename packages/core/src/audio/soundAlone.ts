import { gainFromDb } from '../signal/levels.js'
import { MIX_BLOCK, type SoundPort } from '../signal/soundPort.js'
import type { SoundToPlace } from '../sounds/prepared.js'
import { Bus } from '../treatment/bus.js'
import { treatedBy } from '../treatment/clipTreatment.js'
import { mediaOf, playedOf } from './played.js'
import type { PlanVoice } from './renderPlan.js'
import { VoicePlayer } from './VoicePlayer.js'

/**
 * A prepared sound by itself, as the voice that begins at sample 0.
 *
 * @param db - Level on top of its own gain, in decibels
 */
export function voiceAlone(placed: SoundToPlace, db = 0): PlanVoice {
  const { from = 0, to = placed.recorded } = placed
  const clip = {
    soundId: placed.id,
    speed: placed.speed ?? 1,
    keepPitch: placed.keepPitch ?? false,
    reverse: placed.reverse ?? false,
    sides: placed.sides ?? 'kept',
    channels: placed.channels ?? '',
    recorded: placed.recorded,
  }
  const played = playedOf(clip)
  return {
    ...{ mediaId: mediaOf(clip), start: 0, end: to - from, offset: from },
    ...{
      gain: gainFromDb((placed.gain ?? 0) + db),
      fadeIn: placed.fadeIn ?? 0,
      fadeOut: placed.fadeOut ?? 0,
    },
    ...{ fadeInShape: 'linear', fadeOutShape: 'linear' },
    ...(played ? { played } : {}),
    ...treatedBy(placed.treatment ?? '', placed.id),
  }
}

/**
 * Renders a voice as it sounds by itself, without the law of panning: what is mono stays mono.
 *
 * @param channels - How many its recording is decoded to; of one that is summed to mono the first is enough
 * @returns Interleaved samples, block by block, until its end; a new array each
 */
export function* renderAlone(voice: PlanVoice, port: SoundPort, channels: 1 | 2): Generator<Float32Array> {
  const player = new VoicePlayer([voice], port)
  const bus = new Bus()
  for (let at = voice.start; at < voice.end; at += MIX_BLOCK) {
    const count = Math.min(MIX_BLOCK, voice.end - at)
    bus.clear()
    player.play(bus, count)
    const { hasMono, hasStereo, mono, left, right } = bus
    const out = new Float32Array(count * channels)
    for (let i = 0, to = 0; i < count; i++) {
      const both = hasMono ? (mono[i] as number) : 0
      out[to++] = both + (hasStereo ? (left[i] as number) : 0)
      if (channels === 2) out[to++] = both + (hasStereo ? (right[i] as number) : 0)
    }
    yield out
  }
}

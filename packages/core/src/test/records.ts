import { STILL, type Clip, type Track } from '../reel/records.js'
import { SAMPLE_RATE, samples } from '../time/units.js'

type Lengths = 'start' | 'length' | 'offset' | 'sync' | 'recorded' | 'fadeIn' | 'fadeOut'
type ClipFields = Partial<Omit<Clip, Lengths>> & Partial<Record<Lengths, number>>

/** A placed sound as it may stand in any document, for tests that need no edit to make one. */
export function testClip(id: string, trackId: string, fields: ClipFields = {}): Clip {
  const { start = 0, length = SAMPLE_RATE, offset = 0, sync = 0, fadeIn = 0, fadeOut = 0, ...more } = fields
  const { recorded = offset + length, ...rest } = more
  return {
    ...{ kind: 'clip', id, trackId, cueId: null, soundId: 's', name: 'Lever' },
    ...{ start: samples(start), length: samples(length), offset: samples(offset), sync: samples(sync) },
    ...{ recorded: samples(recorded), fadeIn: samples(fadeIn), fadeOut: samples(fadeOut) },
    ...{ gain: 0, fadeInShape: 'linear', fadeOutShape: 'linear', mute: false, speed: 1, keepPitch: false },
    ...{ reverse: false, sides: 'kept', channels: '', scratch: '', treatment: '', group: '', locked: false },
    ...STILL,
    ...rest,
  }
}

/** A track at full level in the middle. */
export function testTrack(id: string, fields: Partial<Track> = {}): Track {
  return {
    ...{
      kind: 'track',
      id,
      name: id,
      category: 'FX',
      order: 'a',
      level: 0,
      pan: 0,
      mute: false,
      solo: false,
    },
    ...{ ink: 'category', width: 'stereo', folder: '', column: 0 },
    ...fields,
  }
}

import { SAMPLE_RATE, type Clip, type Track } from '@yodel/core'

/** A track as it goes over the wire: at full level in the middle. */
export const plainTrack = (id: string, fields: Partial<Track> = {}): Track => ({
  ...{
    kind: 'track',
    id,
    name: id,
    category: 'FX',
    order: `a${id}`,
    level: 0,
    pan: 0,
    mute: false,
    solo: false,
  },
  ...{ ink: 'category', width: 'stereo', folder: '', column: 0 },
  ...fields,
})

/** A placed sound as it goes over the wire: a second of a recording of a second, from its head; lengths are plain numbers there. */
export const plainClip = (
  id: string,
  trackId: string,
  soundId: string,
  fields: Partial<Record<keyof Clip, unknown>> = {},
): object => ({
  ...{
    kind: 'clip',
    id,
    trackId,
    soundId,
    cueId: null,
    name: id,
    start: 0,
    length: SAMPLE_RATE,
    offset: 0,
    sync: 0,
  },
  ...{ recorded: SAMPLE_RATE, gain: 0, fadeIn: 0, fadeOut: 0, fadeInShape: 'linear', fadeOutShape: 'linear' },
  ...{ mute: false, speed: 1, keepPitch: false, reverse: false, sides: 'kept', group: '', locked: false },
  ...fields,
})

import type { FadeShape } from '../reel/records.js'

const NEPERS = Math.LN10 / 20

/** Linear gain of a level in decibels: 10^(dB/20). -96 dB and below count as silence. */
export function gainFromDb(db: number): number {
  // Rides and compressors ask a thousand times a second: an exponential is quicker than a power.
  return db <= -96 ? 0 : Math.exp(db * NEPERS)
}

/** Level in decibels of a linear gain: 20 log10; -Infinity for 0. */
export function dbFromGain(gain: number): number {
  return 20 * Math.log10(Math.abs(gain))
}

/** A level as it is read out: `−6.0 dB`. */
export const decibelText = (db: number): string =>
  `${db > 0 ? '+' : db < 0 ? '−' : ''}${Math.abs(db).toFixed(1)} dB`

/**
 * Gain of a fade at a point of its course.
 * `linear` sums two crossfaded sounds to equal gain (-6.02 dB in the middle), `power` to equal power (-3.01 dB),
 * `s` is a raised cosine, of equal gain with soft ends.
 *
 * @param t - 0 (silent) to 1 (full).
 */
export function fadeGain(shape: FadeShape, t: number): number {
  switch (shape) {
    case 'linear':
      return t
    case 'power':
      return Math.sin((t * Math.PI) / 2)
    case 's':
      return (1 - Math.cos(t * Math.PI)) / 2
  }
}

/** Gains of one position of a panner: what of the left and right input goes to the left and right output. */
export interface PanGains {
  readonly ll: number
  readonly lr: number
  readonly rl: number
  readonly rr: number
}

/**
 * Pan gains after the W3C Web Audio API, StereoPannerNode algorithm.
 * Mono input counts as left and right alike: its gains are `ll` and `lr` with `rl = rr = 0`.
 * `xy` is the gain from input side x to output side y.
 *
 * @param pan - -1 left to 1 right.
 */
export function panGains(pan: number, channels: 1 | 2): PanGains {
  if (channels === 1) {
    const angle = ((pan + 1) / 2) * (Math.PI / 2)
    return { ll: Math.cos(angle), lr: Math.sin(angle), rl: 0, rr: 0 }
  }
  const angle = (pan <= 0 ? pan + 1 : pan) * (Math.PI / 2)
  return pan <= 0
    ? { ll: 1, lr: 0, rl: Math.cos(angle), rr: Math.sin(angle) }
    : { ll: Math.cos(angle), lr: Math.sin(angle), rl: 0, rr: 1 }
}

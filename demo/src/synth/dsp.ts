/** A seeded source of even random numbers in [0, 1) (mulberry32), so that every run makes the same sounds. */
export type Random = () => number

/** Makes a source of random numbers from a seed. */
export function seeded(seed: number): Random {
  let state = seed >>> 0
  return () => {
    state = (state + 0x6d2b79f5) >>> 0
    let t = Math.imul(state ^ (state >>> 15), state | 1)
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61)
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}

/** A number between two bounds. */
export const between = (random: Random, low: number, high: number): number => low + (high - low) * random()

/** Silence of a length in seconds. */
export const silence = (time: number, rate: number): Float32Array =>
  new Float32Array(Math.max(1, Math.round(time * rate)))

/** White noise of a length in seconds. */
export function noise(time: number, rate: number, random: Random): Float32Array {
  const out = silence(time, rate)
  for (let i = 0; i < out.length; i++) out[i] = random() * 2 - 1
  return out
}

/** Adds a sound to another at a time in seconds; what reaches beyond the end is cut. */
export function addAt(into: Float32Array, sound: Float32Array, time: number, rate: number, gain = 1): void {
  const start = Math.round(time * rate)
  const count = Math.min(sound.length, into.length - start)
  for (let i = Math.max(0, -start); i < count; i++)
    into[start + i] = (into[start + i] as number) + (sound[i] as number) * gain
}

/** Multiplies by a gain that is a function of time in seconds. */
export function shape(sound: Float32Array, rate: number, gain: (time: number) => number): Float32Array {
  for (let i = 0; i < sound.length; i++) sound[i] = (sound[i] as number) * gain(i / rate)
  return sound
}

/** Attack and exponential decay; `decay` is the time to -60 dB. */
export const strike =
  (attack: number, decay: number) =>
  (time: number): number =>
    time < attack ? time / attack : Math.exp((-6.91 * (time - attack)) / decay)

/** Filters in place by one biquad section after the Audio EQ Cookbook. */
export function filter(
  sound: Float32Array,
  rate: number,
  kind: 'low' | 'high' | 'band',
  frequency: number,
  q = 0.707,
): Float32Array {
  const w = (2 * Math.PI * Math.min(frequency, rate * 0.45)) / rate
  const alpha = Math.sin(w) / (2 * q)
  const cos = Math.cos(w)
  const a0 = 1 + alpha
  const [b0, b1, b2] =
    kind === 'low'
      ? [(1 - cos) / 2, 1 - cos, (1 - cos) / 2]
      : kind === 'high'
        ? [(1 + cos) / 2, -1 - cos, (1 + cos) / 2]
        : [alpha, 0, -alpha]
  let [x1, x2, y1, y2] = [0, 0, 0, 0]
  for (let i = 0; i < sound.length; i++) {
    const x = sound[i] as number
    const y = (b0 * x + b1 * x1 + b2 * x2 + 2 * cos * y1 - (1 - alpha) * y2) / a0
    ;[x2, x1, y2, y1] = [x1, x, y1, y]
    sound[i] = y
  }
  return sound
}

/** One way in which a body rings: frequency in Hz, decay to -60 dB in seconds, level. */
export type Mode = readonly [frequency: number, decay: number, level: number]

/** A struck body: damped sines, each a little out of tune by chance. */
export function modal(modes: readonly Mode[], rate: number, random: Random, spread = 0.02): Float32Array {
  const longest = Math.max(...modes.map(([, decay]) => decay))
  const out = silence(longest * 1.05, rate)
  for (const [frequency, decay, level] of modes) {
    const f = frequency * (1 + spread * (random() * 2 - 1))
    if (f > rate * 0.45) continue
    const step = (2 * Math.PI * f) / rate
    const fall = Math.exp(-6.91 / (decay * rate))
    let gain = level * between(random, 0.7, 1)
    const phase = random() * 0.6
    for (let i = 0; i < out.length && gain > 1e-6; i++) {
      out[i] = (out[i] as number) + gain * Math.sin(phase + step * i)
      gain *= fall
    }
  }
  return shape(out, rate, (time) => Math.min(1, time / 0.0006))
}

/** Scales to a highest sample in dBFS and rounds off both ends over a few milliseconds. */
export function finish(channels: Float32Array[], rate: number, peakDb: number): Float32Array[] {
  let highest = 1e-9
  for (const channel of channels) for (const value of channel) highest = Math.max(highest, Math.abs(value))
  const gain = 10 ** (peakDb / 20) / highest
  for (const channel of channels) {
    const total = channel.length / rate
    const edge = Math.min(0.02, total / 8)
    shape(channel, rate, (time) => gain * Math.min(1, time / 0.0015) * Math.min(1, (total - time) / edge))
  }
  return channels
}

/** Slow random movement between 0 and 1, about `speed` turns a second. Times must be asked for in rising order to be quick. */
export function drift(random: Random, speed: number): (time: number) => number {
  const parts = [1, 1.7, 2.9].map(
    (factor) => [2 * Math.PI * speed * factor * between(random, 0.8, 1.2), random() * 7] as const,
  )
  const at = (time: number): number =>
    0.5 +
    parts.reduce((sum, [w, phase], index) => sum + Math.sin(w * time + phase) / (2 + 2 * index), 0) / 2.2
  // Sines for each sample would take longer than all the rest: a straight line between 64 points a turn does.
  const step = 1 / (64 * speed)
  let [from, low, high] = [-1, 0, 0]
  return (time) => {
    const index = Math.floor(time / step)
    if (index !== from) [from, low, high] = [index, at(index * step), at((index + 1) * step)]
    return low + (high - low) * (time / step - index)
  }
}

/** Spreads a mono sound over two channels with an equal-power pan that may move; -1 left to 1 right. */
export function panned(
  sound: Float32Array,
  rate: number,
  pan: (time: number) => number,
): [Float32Array, Float32Array] {
  const gainOf =
    (side: (angle: number) => number) =>
    (time: number): number =>
      side(((pan(time) + 1) * Math.PI) / 4)
  return [shape(sound.slice(), rate, gainOf(Math.cos)), shape(sound.slice(), rate, gainOf(Math.sin))]
}

/** Makes one sound at a sample rate; the same seed makes the same sound. */
export type Voice = (rate: number, random: Random) => Float32Array

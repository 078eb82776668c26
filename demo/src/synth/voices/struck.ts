import {
  addAt,
  between,
  drift,
  filter,
  modal,
  noise,
  shape,
  silence,
  strike,
  type Mode,
  type Voice,
} from '../dsp.js'

// Iron, wood and bells: what sounds because something has hit it.

const scaled = (modes: readonly Mode[], pitch: number, decay: number): Mode[] =>
  modes.map(([f, d, l]) => [f * pitch, d * decay, l])

const IRON: Mode[] = [
  [310, 0.5, 0.7],
  [742, 0.7, 1],
  [1130, 0.55, 0.8],
  [1874, 0.45, 0.7],
  [2630, 0.35, 0.5],
  [3420, 0.25, 0.4],
  [5210, 0.16, 0.3],
  [7130, 0.1, 0.2],
]
const WOOD: Mode[] = [
  [96, 0.14, 1],
  [183, 0.12, 0.8],
  [318, 0.08, 0.5],
  [540, 0.06, 0.4],
  [910, 0.04, 0.25],
]
const BELL: Mode[] = [
  [0.5, 3.2, 0.25],
  [1, 2.8, 1],
  [1.19, 2.1, 0.5],
  [1.5, 1.6, 0.35],
  [2, 1.4, 0.6],
  [2.51, 0.9, 0.35],
  [3.01, 0.7, 0.3],
  [4.17, 0.4, 0.25],
  [5.4, 0.25, 0.2],
]

/** A short burst of noise around a frequency. */
export const tick =
  (frequency: number, decay: number): Voice =>
  (rate, random) =>
    shape(filter(noise(decay * 1.2, rate, random), rate, 'band', frequency, 1.2), rate, strike(0.0004, decay))

/** A piece of iron struck: pitch 1 is a lever's catch, lower is heavier. */
export const iron =
  (pitch = 1, ring = 1): Voice =>
  (rate, random) => {
    const out = modal(scaled(IRON, pitch * between(random, 0.95, 1.05), ring), rate, random)
    addAt(out, tick(2600 * pitch, 0.02)(rate, random), 0, rate, 1.6)
    return out
  }

/** A knock on wood. */
export const wood =
  (pitch = 1): Voice =>
  (rate, random) => {
    const out = modal(scaled(WOOD, pitch * between(random, 0.93, 1.07), 1), rate, random)
    addAt(out, tick(900 * pitch, 0.015)(rate, random), 0, rate, 1.1)
    return out
  }

/** A bell of a strike note in Hz. */
export const bell =
  (note: number, ring = 1): Voice =>
  (rate, random) => {
    const out = modal(scaled(BELL, note, ring), rate, random, 0.004)
    addAt(out, tick(note * 4, 0.008)(rate, random), 0, rate, 0.8)
    return out
  }

/** A lever pulled over: catch, slide, then home with a clank at 0.42 s. */
export const lever =
  (pitch = 1, ring = 1): Voice =>
  (rate, random) => {
    const out = silence(0.45 + 0.9 * ring, rate)
    addAt(out, iron(pitch * 1.9, 0.25)(rate, random), 0, rate, 0.22)
    const slide = filter(noise(0.36, rate, random), rate, 'band', 700 * pitch, 0.9)
    addAt(
      out,
      shape(slide, rate, (time) => Math.sin((Math.PI * time) / 0.36) ** 2),
      0.06,
      rate,
      0.18,
    )
    for (let i = 0; i < 5; i++) addAt(out, iron(pitch * 2.4, 0.08)(rate, random), 0.1 + i * 0.055, rate, 0.08)
    addAt(out, iron(pitch, ring)(rate, random), 0.42, rate, 0.8)
    addAt(out, wood(0.7)(rate, random), 0.422, rate, 0.7)
    addAt(out, iron(pitch * 1.4, 0.3)(rate, random), 0.47, rate, 0.18)
    return out
  }

/** A spring that rings out after a blow. */
export const spring: Voice = (rate, random) => {
  const modes = Array.from({ length: 12 }, (_, i): Mode => [
    180 + 143 * i * (1 + i * 0.02),
    1.9 - i * 0.1,
    1 / (1 + i * 0.3),
  ])
  const trembling = drift(random, 9)
  return shape(modal(modes, rate, random, 0.01), rate, (time) => 0.7 + 0.5 * trembling(time))
}

/** A lid that rattles on a pot. */
export const rattle =
  (time: number): Voice =>
  (rate, random) => {
    const out = silence(time + 0.3, rate)
    for (let at = 0; at < time; at += between(random, 0.03, 0.13))
      addAt(out, iron(between(random, 2.6, 3.4), 0.18)(rate, random), at, rate, between(random, 0.2, 0.8))
    return out
  }

/** Something small that falls on wood and bounces until it lies. */
export const bounce =
  (pitch: number): Voice =>
  (rate, random) => {
    const out = silence(1, rate)
    for (let at = 0, gap = 0.16, level = 1; gap > 0.018; at += gap, gap *= 0.68, level *= 0.6) {
      addAt(out, wood(pitch)(rate, random), at, rate, level)
      addAt(out, tick(3000 * pitch ** 0.5, 0.01)(rate, random), at, rate, level * 0.8)
    }
    return out
  }

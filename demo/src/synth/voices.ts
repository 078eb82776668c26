import { addAt, between, drift, filter, modal, noise, shape, silence, strike, type Mode, type Random } from './dsp.js'

/** Makes one sound at a sample rate; the same seed makes the same sound. */
export type Voice = (rate: number, random: Random) => Float32Array

const scaled = (modes: readonly Mode[], pitch: number, decay: number): Mode[] => modes.map(([f, d, l]) => [f * pitch, d * decay, l])

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
  const modes = Array.from({ length: 12 }, (_, i): Mode => [180 + 143 * i * (1 + i * 0.02), 1.9 - i * 0.1, 1 / (1 + i * 0.3)])
  const trembling = drift(random, 9)
  return shape(modal(modes, rate, random, 0.01), rate, (time) => 0.7 + 0.5 * trembling(time))
}

/** A boot set down on gravel: a crunch at the heel, another at the toe. */
export const gravelStep =
  (weight = 1): Voice =>
  (rate, random) => {
    const out = silence(0.42, rate)
    addAt(out, shape(filter(noise(0.12, rate, random), rate, 'low', 170), rate, strike(0.003, 0.09)), 0.002, rate, 1.4 * weight)
    for (const [start, spread, count, level] of [
      [0, 0.05, 38, 1],
      [0.12, 0.11, 46, 0.6],
    ] as const) {
      for (let i = 0; i < count; i++) {
        const late = random() ** 1.6
        addAt(
          out,
          tick(between(random, 1200, 5200), between(random, 0.004, 0.018))(rate, random),
          start + late * spread,
          rate,
          level * (1 - 0.7 * late) * between(random, 0.2, 0.8),
        )
      }
    }
    return out
  }

/** A boot on floor boards: heel, then sole; now and then the board answers. */
export const boardStep =
  (weight = 1): Voice =>
  (rate, random) => {
    const out = silence(0.5, rate)
    addAt(out, wood(0.85 / weight)(rate, random), 0, rate, 1)
    addAt(out, tick(2100, 0.012)(rate, random), 0, rate, 0.5)
    addAt(out, wood(1.15 / weight)(rate, random), between(random, 0.07, 0.1), rate, 0.4)
    if (random() < 0.3) addAt(out, creak(between(random, 190, 260), 0.18)(rate, random), 0.12, rate, 0.12)
    return out
  }

/** Stone or paving under a boot. */
export const stoneStep: Voice = (rate, random) => {
  const out = silence(0.4, rate)
  addAt(out, tick(1500, 0.03)(rate, random), 0, rate, 1)
  addAt(out, tick(3400, 0.012)(rate, random), 0, rate, 0.7)
  addAt(out, shape(filter(noise(0.08, rate, random), rate, 'low', 240), rate, strike(0.001, 0.07)), 0, rate, 0.9)
  addAt(
    out,
    shape(filter(noise(0.14, rate, random), rate, 'high', 3200), rate, (t) => Math.sin((Math.PI * t) / 0.14) ** 2),
    0.07,
    rate,
    0.16,
  )
  return out
}

/** Wood or a hinge that sticks and slips, from a frequency upwards. */
export const creak =
  (from: number, time: number): Voice =>
  (rate, random) => {
    const out = silence(time + 0.1, rate)
    const wander = drift(random, 3)
    for (let at = 0; at < time;) {
      const level = Math.sin((Math.PI * at) / time) * between(random, 0.5, 1)
      addAt(
        out,
        modal(
          [
            [from * 2.1, 0.03, 1],
            [from * 4.7, 0.02, 0.7],
            [from * 9.2, 0.012, 0.5],
          ],
          rate,
          random,
        ),
        at,
        rate,
        level,
      )
      at += 1 / (from * (0.25 + 0.35 * wander(at) + 0.3 * (at / time)))
    }
    return out
  }

/** A door: latch, creak, and shut with a thud. */
export const door =
  (weight = 1, creaking = 0.8): Voice =>
  (rate, random) => {
    const out = silence(creaking + 1.1, rate)
    addAt(out, iron(2.2, 0.12)(rate, random), 0, rate, 0.3)
    addAt(out, creak(140 / weight, creaking)(rate, random), 0.12, rate, 0.2)
    addAt(out, wood(0.55 / weight)(rate, random), creaking + 0.25, rate, 1.3)
    addAt(out, iron(1.6, 0.2)(rate, random), creaking + 0.262, rate, 0.3)
    return out
  }

/** Cloth that moves: two or three soft swells. */
export const cloth =
  (brightness = 1): Voice =>
  (rate, random) => {
    const swells = 2 + Math.floor(random() * 2)
    const out = silence(0.3 * swells + 0.2, rate)
    for (let i = 0; i < swells; i++) {
      const length = between(random, 0.16, 0.32)
      const swell = filter(filter(noise(length, rate, random), rate, 'band', 2300 * brightness, 0.5), rate, 'high', 500)
      const rough = drift(random, 24)
      addAt(
        out,
        shape(swell, rate, (t) => Math.sin((Math.PI * t) / length) ** 2 * (0.5 + rough(t))),
        i * 0.27,
        rate,
        between(random, 0.5, 1),
      )
    }
    return out
  }

/** Rain for a time: a bed of hiss and single drops; `open` 1 is outside, less is heard through a roof. */
export const rain =
  (time: number, open: number, density = 70): Voice =>
  (rate, random) => {
    const out = filter(filter(noise(time, rate, random), rate, 'high', 500), rate, 'low', 1200 + 9000 * open)
    const swell = drift(random, 0.11)
    shape(out, rate, (t) => 0.1 + 0.08 * swell(t))
    for (let i = 0; i < time * density; i++) {
      const note = between(random, 500, 900 + 4200 * open)
      addAt(out, modal([[note, between(random, 0.01, 0.05), 1]], rate, random), random() * time, rate, 0.22 * random() ** 3)
    }
    return out
  }

/** Wind for a time, around a frequency. */
export const wind =
  (time: number, frequency: number): Voice =>
  (rate, random) => {
    const out = silence(time, rate)
    for (const [factor, level] of [
      [0.5, 1],
      [1, 0.7],
      [1.9, 0.25],
    ] as const) {
      const gust = drift(random, 0.13 * factor)
      addAt(
        out,
        shape(filter(noise(time, rate, random), rate, 'band', frequency * factor, 2.2), rate, (t) => 0.2 + gust(t) ** 2),
        0,
        rate,
        level,
      )
    }
    return out
  }

/** Thunder: a crack and a long roll. */
export const thunder =
  (distance: number): Voice =>
  (rate, random) => {
    const out = silence(6, rate)
    for (let i = 0; i < 16; i++) {
      const at = random() ** 1.5 * 3.4
      const roll = filter(filter(noise(1.8, rate, random), rate, 'low', 900 / (distance + at)), rate, 'low', 400)
      addAt(out, shape(roll, rate, strike(0.02 * distance, 1.6)), at, rate, between(random, 0.4, 1) * Math.exp(-at / 2))
    }
    addAt(out, shape(filter(noise(0.5, rate, random), rate, 'high', 300), rate, strike(0.004, 0.4)), 0, rate, 0.25 / distance)
    return out
  }

/** A kettle: steam that grows, and a whistle above it from `whistleFrom` seconds on. */
export const kettle =
  (time: number, whistleFrom: number): Voice =>
  (rate, random) => {
    const out = shape(filter(noise(time, rate, random), rate, 'band', 4300, 0.7), rate, (t) => Math.min(1, 0.15 + (t / time) * 0.8) * 0.4)
    const waver = drift(random, 5)
    let phase = 0
    for (let i = Math.round(whistleFrom * rate); i < out.length; i++) {
      const t = i / rate
      phase += (2 * Math.PI * (1900 + 260 * Math.min(1, (t - whistleFrom) / 1.2) + 25 * waver(t))) / rate
      out[i] = (out[i] as number) + 0.2 * Math.min(1, (t - whistleFrom) / 0.8) * (Math.sin(phase) + 0.25 * Math.sin(2 * phase))
    }
    return out
  }

/** A lid that rattles on a pot. */
export const rattle =
  (time: number): Voice =>
  (rate, random) => {
    const out = silence(time + 0.3, rate)
    for (let at = 0; at < time; at += between(random, 0.03, 0.13)) addAt(out, iron(between(random, 2.6, 3.4), 0.18)(rate, random), at, rate, between(random, 0.2, 0.8))
    return out
  }

/** Something poured into a cup: bubbles whose pitch rises as it fills. */
export const pour =
  (time: number): Voice =>
  (rate, random) => {
    const out = shape(filter(noise(time, rate, random), rate, 'band', 2600, 0.8), rate, (t) => 0.12 * Math.min(1, t * 6, (time - t) * 6))
    for (let i = 0; i < time * 45; i++) {
      const at = random() * time
      const note = between(random, 420, 700) * (1 + at / time)
      addAt(out, modal([[note, between(random, 0.03, 0.08), 1]], rate, random), at, rate, between(random, 0.05, 0.3))
    }
    return out
  }

/** A nib on paper: strokes. */
export const scratch =
  (time: number): Voice =>
  (rate, random) => {
    const out = silence(time + 0.2, rate)
    for (let at = 0; at < time; at += between(random, 0.12, 0.3)) {
      const length = between(random, 0.06, 0.2)
      const stroke = filter(noise(length, rate, random), rate, 'band', between(random, 2600, 4800), 1.1)
      const grain = drift(random, 60)
      addAt(
        out,
        shape(stroke, rate, (t) => Math.sin((Math.PI * t) / length) * grain(t)),
        at,
        rate,
        between(random, 0.4, 1),
      )
    }
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

/** A telephone's two bells, hammered for a time. */
export const telephone =
  (time: number): Voice =>
  (rate, random) => {
    const out = silence(time + 1.2, rate)
    for (let at = 0, left = true; at < time; at += 1 / 21, left = !left) addAt(out, bell(left ? 1120 : 1390, 0.35)(rate, random), at, rate, between(random, 0.25, 0.35))
    return out
  }

/** A clock: tick and tock every half `period`. */
export const clock =
  (time: number, period: number): Voice =>
  (rate, random) => {
    const out = silence(time, rate)
    for (let at = 0.05, even = true; at < time - 0.1; at += period / 2, even = !even) {
      addAt(out, tick(even ? 3300 : 2500, 0.02)(rate, random), at, rate, 1)
      addAt(out, wood(even ? 4 : 3.2)(rate, random), at, rate, 0.4)
    }
    return out
  }

/** A flame that goes out: flutter, then a soft pop and a fizz. */
export const lampDies: Voice = (rate, random) => {
  const out = silence(1.8, rate)
  const flutter = drift(random, 14)
  addAt(
    out,
    shape(filter(noise(0.9, rate, random), rate, 'low', 900), rate, (t) => flutter(t) ** 2 * 0.3),
    0,
    rate,
  )
  addAt(out, shape(filter(noise(0.2, rate, random), rate, 'low', 300), rate, strike(0.002, 0.16)), 0.9, rate, 2.2)
  addAt(out, shape(filter(noise(0.8, rate, random), rate, 'high', 5000), rate, strike(0.01, 0.8)), 0.92, rate, 0.12)
  return out
}

/** Wires that hum in the wind. */
export const wires =
  (time: number, note: number): Voice =>
  (rate, random) => {
    const out = silence(time, rate)
    for (let k = 1; k <= 7; k++) {
      const beat = drift(random, 0.17 + 0.05 * k)
      const step = (2 * Math.PI * note * k * between(random, 0.998, 1.002)) / rate
      for (let i = 0; i < out.length; i++) out[i] = (out[i] as number) + (Math.sin(step * i) * beat(i / rate)) / (k + 1)
    }
    return out
  }

/** A train that passes: wheels over joints, rolling, and a slow engine; loudest in the middle. */
export const train =
  (time: number): Voice =>
  (rate, random) => {
    const out = silence(time, rate)
    const near = (t: number): number => 1 / (1 + ((t - time / 2) / (time / 6)) ** 2)
    addAt(
      out,
      shape(filter(noise(time, rate, random), rate, 'low', 260), rate, (t) => 1.5 * near(t)),
      0,
      rate,
    )
    addAt(
      out,
      shape(filter(noise(time, rate, random), rate, 'band', 1900, 0.6), rate, (t) => 0.16 * near(t) ** 1.5),
      0,
      rate,
    )
    for (let at = 0.3; at < time - 0.6; at += 10 / 24) {
      for (const axle of [0, 0.085]) addAt(out, iron(0.55, 0.22)(rate, random), at + axle, rate, 0.5 * near(at))
      const chuff = filter(noise(0.24, rate, random), rate, 'band', 620, 0.6)
      addAt(out, shape(chuff, rate, strike(0.02, 0.22)), at + 0.2, rate, 0.9 * near(at))
    }
    return out
  }

/** An engine's whistle: three notes on a breath. */
export const whistle =
  (time: number): Voice =>
  (rate, random) => {
    const out = shape(filter(noise(time, rate, random), rate, 'band', 1500, 1), rate, () => 0.15)
    for (const note of [523, 659, 784]) {
      const waver = drift(random, 4)
      let phase = 0
      for (let i = 0; i < out.length; i++) {
        phase += (2 * Math.PI * note * (1 - 0.03 * Math.exp((-i / rate) * 9) + 0.003 * waver(i / rate))) / rate
        out[i] = (out[i] as number) + 0.3 * (Math.sin(phase) + 0.3 * Math.sin(2 * phase))
      }
    }
    return shape(out, rate, (t) => Math.min(1, t * 12, (time - t) * 5))
  }

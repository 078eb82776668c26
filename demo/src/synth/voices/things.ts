import { addAt, between, drift, filter, modal, noise, shape, silence, strike, type Voice } from '../dsp.js'
import { bell, iron, tick, wood } from './struck.js'

// Things that work, boil, ring or pass by.

/** A kettle: steam that grows, and a whistle above it from `whistleFrom` seconds on. */
export const kettle =
  (time: number, whistleFrom: number): Voice =>
  (rate, random) => {
    const out = shape(
      filter(noise(time, rate, random), rate, 'band', 4300, 0.7),
      rate,
      (t) => Math.min(1, 0.15 + (t / time) * 0.8) * 0.4,
    )
    const waver = drift(random, 5)
    let phase = 0
    for (let i = Math.round(whistleFrom * rate); i < out.length; i++) {
      const t = i / rate
      phase += (2 * Math.PI * (1900 + 260 * Math.min(1, (t - whistleFrom) / 1.2) + 25 * waver(t))) / rate
      out[i] =
        (out[i] as number) +
        0.2 * Math.min(1, (t - whistleFrom) / 0.8) * (Math.sin(phase) + 0.25 * Math.sin(2 * phase))
    }
    return out
  }

/** Something poured into a cup: bubbles whose pitch rises as it fills. */
export const pour =
  (time: number): Voice =>
  (rate, random) => {
    const out = shape(
      filter(noise(time, rate, random), rate, 'band', 2600, 0.8),
      rate,
      (t) => 0.12 * Math.min(1, t * 6, (time - t) * 6),
    )
    for (let i = 0; i < time * 45; i++) {
      const at = random() * time
      const note = between(random, 420, 700) * (1 + at / time)
      addAt(
        out,
        modal([[note, between(random, 0.03, 0.08), 1]], rate, random),
        at,
        rate,
        between(random, 0.05, 0.3),
      )
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

/** A telephone's two bells, hammered for a time. */
export const telephone =
  (time: number): Voice =>
  (rate, random) => {
    const out = silence(time + 1.2, rate)
    for (let at = 0, left = true; at < time; at += 1 / 21, left = !left)
      addAt(out, bell(left ? 1120 : 1390, 0.35)(rate, random), at, rate, between(random, 0.25, 0.35))
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
  addAt(
    out,
    shape(filter(noise(0.2, rate, random), rate, 'low', 300), rate, strike(0.002, 0.16)),
    0.9,
    rate,
    2.2,
  )
  addAt(
    out,
    shape(filter(noise(0.8, rate, random), rate, 'high', 5000), rate, strike(0.01, 0.8)),
    0.92,
    rate,
    0.12,
  )
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
      for (const axle of [0, 0.085])
        addAt(out, iron(0.55, 0.22)(rate, random), at + axle, rate, 0.5 * near(at))
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
        phase +=
          (2 * Math.PI * note * (1 - 0.03 * Math.exp((-i / rate) * 9) + 0.003 * waver(i / rate))) / rate
        out[i] = (out[i] as number) + 0.3 * (Math.sin(phase) + 0.3 * Math.sin(2 * phase))
      }
    }
    return shape(out, rate, (t) => Math.min(1, t * 12, (time - t) * 5))
  }

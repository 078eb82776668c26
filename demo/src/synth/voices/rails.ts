import { addAt, between, filter, modal, noise, shape, silence, strike, type Voice } from '../dsp.js'
import { iron, tick, wood } from './struck.js'

// Rolling stock: joints, couplings, brakes, steam.

/** Two axles of a bogie over a rail joint. */
export const joint =
  (weight = 1): Voice =>
  (rate, random) => {
    const out = silence(0.62, rate)
    for (const at of [0, 0.16]) {
      addAt(out, wood(0.5 / weight)(rate, random), at, rate, 0.9)
      addAt(out, iron(0.6, 0.12)(rate, random), at, rate, 0.35)
    }
    return out
  }

/** Couplings that take up their slack, one wagon after the other. */
export const couplings =
  (wagons: number): Voice =>
  (rate, random) => {
    const out = silence(0.24 * wagons + 0.9, rate)
    for (let i = 0; i < wagons; i++)
      addAt(
        out,
        iron(between(random, 0.55, 0.75), 0.5)(rate, random),
        i * between(random, 0.14, 0.22),
        rate,
        1 - (0.6 * i) / wagons,
      )
    return out
  }

/** A brake block on a tyre: a squeal that bends down. */
export const brake =
  (time: number, note: number): Voice =>
  (rate, random) => {
    const out = silence(time, rate)
    let phase = 0
    const wobble = between(random, 5, 9)
    for (let i = 0; i < out.length; i++) {
      const t = i / rate
      phase +=
        (2 * Math.PI * note * (1 - (0.25 * t) / time) * (1 + 0.01 * Math.sin(2 * Math.PI * wobble * t))) /
        rate
      out[i] =
        (Math.sin(phase) + 0.5 * Math.sin(2.01 * phase) + 0.3 * Math.sin(3.97 * phase)) *
        Math.sin((Math.PI * t) / time) ** 0.5
    }
    addAt(
      out,
      shape(filter(noise(time, rate, random), rate, 'band', note * 1.5, 1), rate, (t) =>
        Math.sin((Math.PI * t) / time),
      ),
      0,
      rate,
      0.5,
    )
    return out
  }

/** Steam let go through a valve. */
export const steam =
  (time: number, pitch = 1): Voice =>
  (rate, random) =>
    shape(
      filter(filter(noise(time, rate, random), rate, 'high', 900 * pitch), rate, 'low', 9000),
      rate,
      (t) => Math.min(1, t / 0.03) * Math.exp((-2.5 * t) / time),
    )

/** One beat of the exhaust. */
export const chuff =
  (weight = 1): Voice =>
  (rate, random) => {
    const out = shape(
      filter(noise(0.4, rate, random), rate, 'band', 420 / weight, 0.8),
      rate,
      strike(0.012, 0.2),
    )
    addAt(
      out,
      shape(filter(noise(0.3, rate, random), rate, 'low', 140), rate, strike(0.006, 0.16)),
      0,
      rate,
      1.6 * weight,
    )
    return out
  }

/** A point blade that goes over and locks. */
export const points: Voice = (rate, random) => {
  const out = silence(1.1, rate)
  addAt(
    out,
    shape(filter(noise(0.3, rate, random), rate, 'band', 1300, 1.5), rate, (t) =>
      Math.sin((Math.PI * t) / 0.3),
    ),
    0,
    rate,
    0.3,
  )
  addAt(out, iron(0.8, 0.5)(rate, random), 0.3, rate, 1)
  addAt(out, tick(2400, 0.02)(rate, random), 0.42, rate, 0.5)
  return out
}

/** A rail that sings before the train is there. */
export const singing =
  (time: number): Voice =>
  (rate, random) => {
    const out = silence(time, rate)
    for (let at = 0; at < time - 0.4; at += between(random, 0.05, 0.2))
      addAt(
        out,
        modal([[between(random, 2200, 5200), 0.3, 1]], rate, random),
        at,
        rate,
        (0.15 * at) / time + 0.02,
      )
    return out
  }

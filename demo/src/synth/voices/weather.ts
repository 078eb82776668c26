import { addAt, between, drift, filter, modal, noise, shape, silence, strike, type Voice } from '../dsp.js'

// Weather, and the wires it plays on.

/** Rain for a time: a bed of hiss and single drops; `open` 1 is outside, less is heard through a roof. */
export const rain =
  (time: number, open: number, density = 70): Voice =>
  (rate, random) => {
    const out = filter(filter(noise(time, rate, random), rate, 'high', 500), rate, 'low', 1200 + 9000 * open)
    const swell = drift(random, 0.11)
    shape(out, rate, (t) => 0.1 + 0.08 * swell(t))
    for (let i = 0; i < time * density; i++) {
      const note = between(random, 500, 900 + 4200 * open)
      addAt(
        out,
        modal([[note, between(random, 0.01, 0.05), 1]], rate, random),
        random() * time,
        rate,
        0.22 * random() ** 3,
      )
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
        shape(
          filter(noise(time, rate, random), rate, 'band', frequency * factor, 2.2),
          rate,
          (t) => 0.2 + gust(t) ** 2,
        ),
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
      const roll = filter(
        filter(noise(1.8, rate, random), rate, 'low', 900 / (distance + at)),
        rate,
        'low',
        400,
      )
      addAt(
        out,
        shape(roll, rate, strike(0.02 * distance, 1.6)),
        at,
        rate,
        between(random, 0.4, 1) * Math.exp(-at / 2),
      )
    }
    addAt(
      out,
      shape(filter(noise(0.5, rate, random), rate, 'high', 300), rate, strike(0.004, 0.4)),
      0,
      rate,
      0.25 / distance,
    )
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
      for (let i = 0; i < out.length; i++)
        out[i] = (out[i] as number) + (Math.sin(step * i) * beat(i / rate)) / (k + 1)
    }
    return out
  }

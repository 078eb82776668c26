import { addAt, between, drift, filter, modal, noise, shape, silence, strike, type Voice } from '../dsp.js'
import { iron, tick, wood } from './struck.js'

// Steps, doors and cloth: what sounds because somebody moves.

/** A boot set down on gravel: a crunch at the heel, another at the toe. */
export const gravelStep =
  (weight = 1): Voice =>
  (rate, random) => {
    const out = silence(0.42, rate)
    addAt(
      out,
      shape(filter(noise(0.12, rate, random), rate, 'low', 170), rate, strike(0.003, 0.09)),
      0.002,
      rate,
      1.4 * weight,
    )
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
  addAt(
    out,
    shape(filter(noise(0.08, rate, random), rate, 'low', 240), rate, strike(0.001, 0.07)),
    0,
    rate,
    0.9,
  )
  addAt(
    out,
    shape(
      filter(noise(0.14, rate, random), rate, 'high', 3200),
      rate,
      (t) => Math.sin((Math.PI * t) / 0.14) ** 2,
    ),
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
      const swell = filter(
        filter(noise(length, rate, random), rate, 'band', 2300 * brightness, 0.5),
        rate,
        'high',
        500,
      )
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

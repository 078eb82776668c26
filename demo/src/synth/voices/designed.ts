import { addAt, between, drift, filter, modal, noise, shape, silence, strike, type Voice } from '../dsp.js'

// Sounds that nothing makes: sweeps, hits, drones.

/** Air that rushes past: a band of noise that rises and falls in pitch and level, its middle at a part of its time. */
export const whoosh =
  (time: number, low: number, high: number, middle = 0.6): Voice =>
  (rate, random) => {
    const out = silence(time, rate)
    const slices = 24
    for (let i = 0; i < slices; i++) {
      const at = i / slices
      const near = at < middle ? at / middle : (1 - at) / (1 - middle)
      const slice = shape(
        filter(
          noise((2.4 * time) / slices, rate, random),
          rate,
          'band',
          low + (high - low) * near ** 1.5,
          1.4,
        ),
        rate,
        (t) => Math.sin((Math.PI * t * slices) / (2.4 * time)) ** 2,
      )
      addAt(out, slice, at * time * 0.93, rate, near ** 2.2 + 0.01)
    }
    return out
  }

/** A heavy hit: a falling tone below, a crack above. */
export const impact =
  (note: number, tail: number): Voice =>
  (rate, random) => {
    const out = silence(tail * 1.2, rate)
    let phase = 0
    for (let i = 0; i < out.length; i++) {
      const t = i / rate
      phase += (2 * Math.PI * note * (1 + 2.2 * Math.exp(-t * 18))) / rate
      out[i] = Math.sin(phase) * Math.exp((-3 * t) / tail)
    }
    addAt(
      out,
      shape(filter(noise(0.12, rate, random), rate, 'high', 900), rate, strike(0.0008, 0.05)),
      0,
      rate,
      0.6,
    )
    return out
  }

/** A tone that climbs to its end, to be cut there. */
export const riser =
  (time: number, from: number, to: number): Voice =>
  (rate, random) => {
    const out = silence(time, rate)
    const voices = Array.from({ length: 5 }, () => ({
      phase: random() * 6,
      detune: between(random, 0.985, 1.015),
    }))
    for (let i = 0; i < out.length; i++) {
      const part = i / out.length
      const pitch = from * (to / from) ** part
      let sum = 0
      for (const voice of voices) {
        voice.phase += (2 * Math.PI * pitch * voice.detune) / rate
        sum += Math.sin(voice.phase) + 0.4 * Math.sin(2 * voice.phase)
      }
      out[i] = (sum / 7) * part ** 2
    }
    addAt(
      out,
      shape(filter(noise(time, rate, random), rate, 'band', to * 2, 0.8), rate, (t) => (t / time) ** 3),
      0,
      rate,
      0.5,
    )
    return out
  }

/** A chord that hangs in the air and turns slowly. */
export const drone =
  (time: number, note: number, parts: readonly number[]): Voice =>
  (rate, random) => {
    const out = silence(time, rate)
    for (const part of parts) {
      const beat = drift(random, 0.09)
      const step = (2 * Math.PI * note * part * between(random, 0.997, 1.003)) / rate
      for (let i = 0; i < out.length; i++)
        out[i] = (out[i] as number) + (Math.sin(step * i) * (0.3 + beat(i / rate))) / (1 + part)
    }
    return shape(out, rate, (t) => Math.min(1, t / 1.5, (time - t) / 1.5))
  }

/** A glassy strike with a long bloom. */
export const shimmer =
  (note: number): Voice =>
  (rate, random) =>
    modal(
      Array.from(
        { length: 14 },
        (_, i) => [note * (1 + i * 0.53 + 0.03 * random()), 2.4 / (1 + i * 0.3), 1 / (1 + i * 0.4)] as const,
      ),
      rate,
      random,
      0.01,
    )

import {
  addAt,
  between,
  filter,
  noise,
  seeded,
  shape,
  silence,
  type Random,
  type Voice,
} from '../synth/dsp.js'
import * as v from '../synth/voices/index.js'
import type { EventKind, Story } from './story.js'

const RATE = 48_000

const VOICES: Record<Exclude<EventKind, 'pop'>, [Voice, gain: number]> = {
  'step gravel': [v.gravelStep(1), 0.24],
  'step boards': [v.boardStep(1), 0.24],
  'step paving': [v.stoneStep, 0.2],
  'door': [v.wood(0.5), 0.5],
  'bell': [v.bell(1050, 0.6), 0.3],
  'lever': [v.iron(1, 0.8), 0.4],
  'lid': [v.iron(3, 0.15), 0.12],
  'pour': [v.pour(2), 0.5],
  'pen': [v.scratch(1.2), 0.12],
  'pen drops': [v.bounce(3), 0.2],
  'register': [v.wood(0.8), 0.3],
  'whistle': [v.whistle(0.9), 0.3],
  'train': [v.iron(0.55, 0.25), 0.3],
  'clock': [v.tick(3000, 0.02), 0.14],
  'telephone': [v.telephone(1), 0.35],
  'lamp': [v.wood(1.4), 0.2],
  'signal': [v.iron(0.7, 1), 0.4],
  'thunder': [v.thunder(1.5), 0.8],
  'chair': [v.creak(190, 0.4), 0.2],
}

/** The guide of a reel: a rough mono mix of its events, as a camera's microphone would have it. 48 kHz, -1 to 1. */
export function makeGuide(story: Story): Float32Array {
  const { leader, programme } = story.facts
  const random: Random = seeded(52)
  const out = silence(story.seconds(story.length), RATE)
  for (const event of story.events) {
    if (event.what === 'pop') continue
    const [voice, gain] = VOICES[event.what]
    addAt(out, voice(RATE, random), story.seconds(event.frame), RATE, gain * between(random, 0.8, 1))
  }
  const hiss = filter(noise(story.seconds(programme), RATE, random), RATE, 'low', 5000)
  addAt(
    out,
    shape(hiss, RATE, () => 0.006),
    story.seconds(leader),
    RATE,
  )
  filter(filter(out, RATE, 'high', 120), RATE, 'low', 7000)
  const start = Math.round(story.seconds(story.pop) * RATE)
  const length = Math.round(story.seconds(1) * RATE)
  for (let i = 0; i < length; i++) out[start + i] = 0.1 * Math.sin((2 * Math.PI * 1000 * i) / RATE)
  for (let i = 0; i < out.length; i++) out[i] = Math.tanh((out[i] as number) * 1.2)
  return out
}

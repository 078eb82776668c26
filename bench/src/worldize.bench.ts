// Twenty-four tracks with a place each, on one core: how many times as fast as they play; whether no amount is no change; and as
// many tracks with a reverb each.
import {
  MIX_BLOCK,
  Mixer,
  PLACES,
  planOfVoices,
  PRESETS,
  SAMPLE_RATE,
  type Insert,
  type PlaceId,
  type RenderPlan,
} from '@yodel/core'
import { report } from './report.js'

const TRACKS = 24
const SECONDS = 10
const LENGTH = SECONDS * SAMPLE_RATE

let state = 11
const random = (): number => (state = (state * 1_103_515_245 + 12_345) % 2_147_483_648) / 2_147_483_648
const sounds = Array.from({ length: TRACKS }, () =>
  Float32Array.from({ length: LENGTH }, () => (random() - 0.5) * 0.2),
)
const port = (id: string) => ({ from: 0, channels: [sounds[Number(id)]] as [Float32Array] })

const insert = (place: PlaceId, index: number, amount: number): Insert => ({
  ...{ kind: 'insert', id: `i${index}`, on: `t${index}`, order: 'a0', bypass: false, effect: 'place' },
  ...PRESETS.place[PLACES.indexOf(place)]!.settings,
  amount,
})
/** Each track plays its own sound, in mono, in the middle. @param placeOf - Null leaves a track as it is */
const planWith = (placeOf: (index: number) => PlaceId | null, amount = 1): RenderPlan =>
  planOf((index) => {
    const place = placeOf(index)
    return place ? [insert(place, index, amount)] : []
  })
function planOf(insertsOf: (index: number) => Insert[]): RenderPlan {
  const strips = sounds.map((_, index) => {
    const voice = { mediaId: String(index), start: 0, end: LENGTH, offset: 0, gain: 1, fadeIn: 0, fadeOut: 0 }
    const one = planOfVoices([{ ...voice, fadeInShape: 'linear', fadeOutShape: 'linear' }], {
      inserts: insertsOf(index),
    })
    return { ...one.strips[0]!, key: `t${index}` }
  })
  return { ...planOfVoices([]), strips }
}

/** Renders it. @returns Times as fast as it plays, and what came out on the left */
function run(plan: RenderPlan): { speed: number; left: Float32Array } {
  const mixer = new Mixer(plan, port)
  const [left, right] = [new Float32Array(LENGTH), new Float32Array(LENGTH)]
  // Rooms are made before, as they are before one plays.
  mixer.render(left, right, 0, 16 * MIX_BLOCK)
  mixer.seek(0)
  const begun = performance.now()
  for (let at = 0; at < LENGTH; at += MIX_BLOCK)
    mixer.render(left, right, at, Math.min(MIX_BLOCK, LENGTH - at))
  return { speed: SECONDS / ((performance.now() - begun) / 1000), left }
}

const plain = run(planWith(() => null))
report({ name: 'worldize.none.speed', value: plain.speed, unit: 'x real time' })
for (const place of PLACES)
  report({ name: `worldize.24-${place}.speed`, value: run(planWith(() => place)).speed, unit: 'x real time' })
const all = run(planWith((index) => PLACES[index % PLACES.length] ?? null))
report({ name: 'worldize.all-twelve-twice.speed', value: all.speed, unit: 'x real time' })
const nothing = run(planWith((index) => PLACES[index % PLACES.length] ?? null, 0))
const equal = nothing.left.every((value, at) => Object.is(value, plain.left[at]))
report({ name: 'worldize.amount-0.bit-equal', value: equal ? 100 : 0, unit: '%' })
for (const room of ['parlour', 'hall'] as const) {
  const reverb = (index: number): Insert => ({
    ...{ kind: 'insert', id: `i${index}`, on: `t${index}`, order: 'a0', bypass: false, effect: 'reverb' },
    ...{ room, wet: -12, dry: 0, preDelay: 10 },
  })
  const { speed } = run(planOf((index) => [reverb(index)]))
  report({ name: `worldize.24-reverbs-${room}.speed`, value: speed, unit: 'x real time' })
}
process.exit()

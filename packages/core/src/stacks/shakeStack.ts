import type { FoundLayers, LayerSound, StackLayer, StackPlan, Variation } from '../contract/stacks.js'
import { between, gainBetween, speedBetween, weighed } from '../pools/Picker.js'
import type { Category } from '../reel/categories.js'
import { prepareSound, UNPREPARED, type SoundToPlace } from '../sounds/prepared.js'
import { SAMPLE_RATE } from '../time/units.js'
import { layerSeed, seededRandom } from './seeds.js'

/** One layer of a stack as chance has it. */
export interface ShakenLayer {
  /** Id of the layer in its plan. */
  readonly layer: string
  readonly category: Category
  readonly sound: SoundToPlace
  /** Samples after the moment of the stack at which the sound's sync point lies. */
  readonly at: number
}

const lengthOf = ({ length, part }: LayerSound): number =>
  part ? Math.min(part.to, length) - part.from : length

const usable = new WeakMap<readonly LayerSound[], WeakMap<StackLayer, readonly LayerSound[]>>()

/**
 * What a layer may pick from: sounds whose length lies within its limits and that weigh something, in an order that depends
 * on nothing else. Looked for once, however many variations ask.
 */
export function usableFor(layer: StackLayer, found: readonly LayerSound[]): readonly LayerSound[] {
  const known = usable.get(found) ?? new WeakMap<StackLayer, readonly LayerSound[]>()
  usable.set(found, known)
  const those = known.get(layer) ?? pickUsable(layer, found)
  known.set(layer, those)
  return those
}

function pickUsable(
  { seconds: [least, most] }: StackLayer,
  found: readonly LayerSound[],
): readonly LayerSound[] {
  const digits = (value: number): string => String(value).padStart(12, '0')
  // By what a recording is and not by its id, which tells where it lies: the same recordings elsewhere are the same.
  const key = ({ id, name, length, part }: LayerSound): string =>
    `${name} ${digits(length)} ${digits(part?.from ?? 0)} ${id}`
  return found
    .filter((sound) => {
      const seconds = lengthOf(sound) / SAMPLE_RATE
      return sound.weight > 0 && lengthOf(sound) > 0 && seconds >= least && seconds <= most
    })
    .sort((a, b) => (key(a) < key(b) ? -1 : 1))
}

/**
 * The layers of a variation: for the same plan, seed and sounds the same on every machine. A layer for which nothing is
 * found is left out.
 */
export function shakeStack(plan: StackPlan, variation: Variation, found: FoundLayers): ShakenLayer[] {
  return plan.layers.flatMap((layer) => {
    const those = usableFor(layer, found[layer.id] ?? NOTHING)
    return those.length === 0 ? [] : (shakeLayer(layer, those, layerSeed(variation, layer.id)) ?? [])
  })
}

const NOTHING: readonly LayerSound[] = []

function shakeLayer(layer: StackLayer, those: readonly LayerSound[], seed: number): ShakenLayer | null {
  const random = seededRandom(seed)
  // Every number is drawn every time, in this order: changing one limit leaves the others as they were.
  const isThere = random() < layer.there
  const picked = weighed(those, ({ weight }) => weight, random)
  const reverse = random() < layer.reverse
  const gain = gainBetween(layer.gain, random)
  const speed = speedBetween(layer.pitch, random)
  const at = Math.round(between(layer.later, random) * SAMPLE_RATE)
  const tempo = Math.round(between(layer.tempo, random) * 100) / 100
  const keepPitch = layer.tempo.some((limit) => limit !== 1)
  if (!isThere) return null
  const { part } = picked
  const samplesOf = (seconds: number | null): number | null =>
    seconds === null ? null : Math.round(seconds * SAMPLE_RATE)
  const placed = prepareSound(picked, {
    ...UNPREPARED,
    ...{
      in: part?.from ?? null,
      out: part ? Math.min(part.to, picked.length) : null,
      sync: part?.sync ?? null,
    },
    ...{
      gain,
      speed: keepPitch ? tempo : speed,
      keepPitch,
      reverse,
      fadeIn: samplesOf(layer.fadeIn),
      fadeOut: samplesOf(layer.fadeOut),
    },
  })
  const { from = 0, to = placed.recorded, sync } = placed
  const meets = { sync, ends: to - 1, begins: from }[layer.lies]
  return { layer: layer.id, category: layer.category, sound: { ...placed, sync: meets }, at }
}

/** Where the layers of a stack begin and end together, in samples from its moment: `[from, to)`; null without layers. */
export function stackSpan(layers: readonly ShakenLayer[]): readonly [from: number, to: number] | null {
  if (layers.length === 0) return null
  const begins = layers.map(({ at, sound }) => at - sound.sync + (sound.from ?? 0))
  const ends = layers.map(({ at, sound }) => at - sound.sync + (sound.to ?? sound.recorded))
  return [Math.min(...begins), Math.max(...ends)]
}

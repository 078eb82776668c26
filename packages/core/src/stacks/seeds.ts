import { mersenne } from 'pure-rand'
import type { Variation } from '../contract/stacks.js'
import type { Random } from '../pools/Picker.js'

/** Chance from a seed: MT19937, which gives the same numbers on every machine. @param seed - 32 bits, unsigned */
export function seededRandom(seed: number): Random {
  const generator = mersenne(seed | 0)
  return () => (generator.unsafeNext() >>> 0) / 2 ** 32
}

/** FNV-1a of a text in ASCII, 32 bits. Source: draft-eastlake-fnv. */
export function fnv1a(text: string): number {
  let hash = 0x811c9dc5
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193)
  return hash >>> 0
}

/** The seed of a layer within a variation, so that layers of one seed have nothing to do with each other. */
export const layerSeed = ({ seed, held }: Variation, layerId: string): number =>
  fnv1a(`${held[layerId] ?? seed} ${layerId}`)

/** A variation in a word, as a stack on the Sheet remembers it: its seed, then `layer=seed` for each layer that was held. */
export const variationText = ({ seed, held }: Variation): string =>
  [
    seed,
    ...Object.entries(held)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([id, own]) => `${id}=${own}`),
  ].join(' ')

/** Reads what {@link variationText} wrote; null when it is something else. */
export function readVariation(text: string): Variation | null {
  if (!/^\d+( [a-z0-9]+=\d+)*$/.test(text)) return null
  const [seed, ...held] = text.split(' ')
  return {
    seed: Number(seed),
    held: Object.fromEntries(held.map((one) => [one.split('=')[0], Number(one.split('=')[1])])),
  }
}

/**
 * So many variations, one seed after the other, each with the held layers as they are in one of them.
 *
 * @param from - The first seed
 */
export function variationsFrom(
  from: number,
  count: number,
  { of, layers }: { readonly of: Variation | null; readonly layers: readonly string[] } = {
    of: null,
    layers: [],
  },
): Variation[] {
  const held = Object.fromEntries(layers.flatMap((id) => (of ? [[id, of.held[id] ?? of.seed]] : [])))
  return Array.from({ length: count }, (_, index) => ({ seed: (from + index) % 2 ** 32, held }))
}

import {
  frames,
  frameToSample,
  keepStack,
  rateOf,
  shakeStack,
  variationText,
  type Change,
  type FoundLayers,
  type ReelDocument,
  type Result,
  type SoundToPlace,
  type StackLayer,
  type StackPlan,
} from '@yodel/core'

const layer = (id: string, name: string, what: string, fields: Partial<StackLayer>): StackLayer => ({
  ...{ id, name, category: 'FX', source: { of: 'search', what, called: '' }, seconds: [0, 20] },
  ...{
    lies: 'begins',
    later: [0, 0],
    gain: [-9, -5],
    pitch: [-1, 1],
    tempo: [1, 1],
    fadeIn: null,
    fadeOut: null,
  },
  ...{ reverse: 0, there: 1 },
  ...fields,
})

/** The plan of the demo's show: an engine comes near, around its whistle. */
export const DEMO_PLAN: StackPlan = {
  ...{ id: '0d3a0f3e-0000-4000-8000-0000000000a0', version: 0, name: 'Engine comes near' },
  layers: [
    layer('whistle', 'Whistle', 'shunter whistle', { lies: 'sync', gain: [-6, -4] }),
    layer('rail', 'Rail', 'rail sings', { lies: 'ends', later: [0.2, 0.6], gain: [-10, -6] }),
    layer('steam', 'Steam', 'steam let off', { later: [0.3, 0.7], gain: [-12, -8], there: 0.9 }),
    layer('beat', 'Beat', 'exhaust beat', { later: [0.5, 0.9], seconds: [0, 3], pitch: [-2, 0] }),
    layer('joint', 'Rail joint', 'rail joint bogie', { later: [1.5, 2], seconds: [0, 3], gain: [-14, -10] }),
    layer('slack', 'Couplings', 'couplings take up', { later: [2.4, 3], gain: [-16, -11], there: 0.7 }),
  ],
}

/** Recordings that the layers of the plan find, by the beginnings of their names. */
const FOUND: Readonly<Record<string, readonly string[]>> = {
  whistle: ['Shunter whistle 1', 'Shunter whistle 2', 'Shunter whistle 3'],
  rail: ['Rail sings 1', 'Rail sings 2', 'Rail sings 3'],
  steam: [1, 2, 3, 4, 5, 6, 7, 8].map((n) => `Steam let off ${n}`),
  beat: [1, 2, 3, 4, 5, 6, 7, 8].map((n) => `Exhaust beat ${n}`),
  joint: [1, 2, 3, 4, 5, 6, 7, 8, 9, 10].map((n) => `Rail joint, bogie ${n}`),
  slack: [1, 2, 3, 4, 5, 6].map((n) => `Couplings take up, ${n + 1} wagons`),
}

/** Lays the demo's stack on the cue of the engine's whistle. @param soundOf - Finds an indexed recording by its name */
export const layDemoStack =
  (cueWords: string, soundOf: (name: string) => SoundToPlace) =>
  (doc: ReelDocument): Result<Change> => {
    const cue = [...doc.cue.values()].find(({ words }) => words === cueWords)
    const found: FoundLayers = Object.fromEntries(
      Object.entries(FOUND).map(([id, names]) => [
        id,
        names.map((name) => {
          const { id: soundId, recorded, sync } = soundOf(name)
          return { id: soundId, name, length: recorded, sync, part: null, weight: 1 }
        }),
      ]),
    )
    const variation = { seed: 18, held: {} }
    let count = 0
    return keepStack(doc, {
      ...{ id: 'stack-1', name: DEMO_PLAN.name, planId: DEMO_PLAN.id, variation: variationText(variation) },
      ...{
        layers: shakeStack(DEMO_PLAN, variation, found),
        at: frameToSample(cue?.sync ?? frames(0), rateOf(doc)),
        cueId: cue?.id ?? null,
      },
      newId: () => `stack-1-${++count}`,
    })
  }

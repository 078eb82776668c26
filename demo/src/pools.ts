import type { Pool, SoundToPlace } from '@yodel/core'

/** What stands on the first keys of the demo's show: name, recordings by the beginning of their names, how they are picked. */
const POOLS: readonly (Omit<Pool, 'id' | 'version' | 'members' | 'held' | 'live'> & {
  readonly sounds: string
  readonly count: number
})[] = [
  {
    ...{
      key: 0,
      name: 'Signalman, gravel',
      category: 'FOL',
      pick: 'once',
      sounds: 'Boot on gravel',
      count: 6,
    },
    ...{ gain: [-2, 0], pitch: [-0.5, 0.5] },
  },
  {
    ...{
      key: 1,
      name: 'Signalman, boards',
      category: 'FOL',
      pick: 'once',
      sounds: 'Boot on boards',
      count: 6,
    },
    ...{ gain: [-2, 0], pitch: [-0.5, 0.5] },
  },
  {
    ...{
      key: 2,
      name: 'Ground frame',
      category: 'FX',
      pick: 'order',
      sounds: 'Ground frame lever, set',
      count: 4,
    },
    ...{ gain: [0, 0], pitch: [0, 0] },
  },
]

/** The demo's pools. @param soundOf - Finds an indexed recording by its name */
export const demoPools = (soundOf: (name: string) => SoundToPlace): Pool[] =>
  POOLS.map(({ sounds, count, ...pool }) => ({
    ...pool,
    id: `0d3a0f3e-0000-4000-8000-00000000000${pool.key}`,
    version: 0,
    held: false,
    live: '',
    members: Array.from({ length: count }, (_, index) => {
      const { id, name } = soundOf(`${sounds} ${index + 1}`)
      return { soundId: id, name, part: null, weight: 1 }
    }),
  }))

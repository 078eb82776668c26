import type { LayerSound, Pool, Sound, StackLayer, StackPlan } from '@yodel/core'
import type { DataSource } from 'typeorm'
import { MADE } from '../made/madeShelf.js'
import { scopeOf } from '../search/scopeOf.js'
import { searchSounds } from '../search/searchSounds.js'
import { listPools } from '../sounds/pools.js'
import { soundsByIds } from '../sounds/soundRows.js'

/** A layer picks from so many sounds at most: the best that its search finds. */
const MOST_FOUND = 240

/** Stacks are not made of each other, nor of scratch voices; what somebody has recorded is as good as anything. */
const BY_MACHINE = [MADE.variations, MADE.voices]

/** What finding works with; `made` is the shelf of what was made for the show. */
interface Finding {
  readonly db: DataSource
  readonly reelId: string
  readonly person: string
  readonly now: Date
  readonly made: string | null
}

/** What the layers of a plan may pick from, by their ids. Recordings that are gone are left out. */
export async function findLayers(finding: Finding, plan: StackPlan): Promise<Record<string, LayerSound[]>> {
  const pools = plan.layers.some(({ source }) => source.of === 'pool')
    ? await listPools(finding.db, finding.reelId)
    : []
  const found: Record<string, LayerSound[]> = {}
  for (const layer of plan.layers) found[layer.id] = await findLayer(finding, layer, pools)
  return found
}

async function findLayer(
  finding: Finding,
  { source }: StackLayer,
  pools: readonly Pool[],
): Promise<LayerSound[]> {
  if (source.of === 'pool') {
    const members = pools.find(({ id }) => id === source.what)?.members ?? []
    const sounds = await soundsById(
      finding,
      members.map(({ soundId }) => soundId),
    )
    return members.flatMap(({ soundId, part, weight }) => {
      const sound = sounds.get(soundId)
      return sound ? [{ ...wholeOf(sound), part, weight }] : []
    })
  }
  if (source.what.trim() === '') return []
  const where = source.of === 'kit' ? { q: '', kit: source.what } : { q: source.what }
  const ids = await idsFound(finding, where)
  return [...(await soundsById(finding, ids)).values()].map(wholeOf)
}

async function idsFound({ db, person, now }: Finding, where: { q: string; kit?: string }): Promise<string[]> {
  const scope = await scopeOf(db, where, person, now)
  const ids: string[] = []
  for (let cursor: string | null = null; ids.length < MOST_FOUND;) {
    const page = await searchSounds(db, {
      ...{ text: where.q, scope, sort: 'match', down: false, beyond: null, cursor },
    })
    ids.push(...page.ids)
    if (page.next === null) break
    cursor = page.next
  }
  return ids.slice(0, MOST_FOUND)
}

async function soundsById({ db, made }: Finding, ids: readonly string[]): Promise<Map<string, Sound>> {
  const there = (await soundsByIds(db, ids)).filter(
    ({ missing, length, shelfId, path }) =>
      !missing &&
      length > 0 &&
      !(shelfId === made && BY_MACHINE.some((folder) => path.startsWith(`${folder}/`))),
  )
  return new Map(there.map((sound) => [sound.id, sound]))
}

const wholeOf = ({ id, name, length, sync }: Sound): LayerSound => ({
  ...{ id, name, length, sync, part: null, weight: 1 },
})

import {
  aboutKey,
  aimsOf,
  acceptancesOf,
  checksMade,
  findingsOf,
  type Acceptance,
  type Finding,
  type KeptRecipe,
  type ReelDocument,
  type TurnoverFacts,
} from '@yodel/core'
import { useMemo } from 'react'
import { api } from '../api/api.js'
import { useAppSelector, type RootState } from '../document/store.js'
import { useReel } from './session.js'

/** What was found on a reel, and what of it was accepted. */
export interface Findings {
  readonly all: readonly Finding[]
  readonly accepted: ReadonlyMap<Finding, Acceptance>
  /** What is still to be worked off, the worst first. */
  readonly open: readonly Finding[]
  /** Checks that were not made, since nothing was asked or known for them. */
  readonly left: readonly string[]
}

/** Milliseconds between two looks at what only the server knows: a disk that is connected again is seen soon. */
const LOOK_MS = 4000
const known = new WeakMap<ReelDocument, { facts: TurnoverFacts; findings: Findings }>()

/** The findings of a document; computed once for each, however many ask. */
export function findingsFor(doc: ReelDocument, facts: TurnoverFacts): Findings {
  const before = known.get(doc)
  if (before?.facts === facts) return before.findings
  const all = findingsOf(doc, facts)
  const accepted = acceptancesOf(doc, all)
  const open = all.filter((finding) => !accepted.has(finding))
  const findings = { all, accepted, open, left: checksMade(facts).left }
  known.set(doc, { facts, findings })
  return findings
}

/** What only the server knows, with what the recipe as it stands asks for. What was measured with other treatment does not count. */
function askedOf(facts: TurnoverFacts, recipe: KeptRecipe): TurnoverFacts {
  const before = asked.get(facts)
  if (before?.recipe === recipe) return before.facts
  const made = { ...facts, recipe: aimsOf(recipe) }
  asked.set(facts, { recipe, facts: made })
  return made
}
const asked = new WeakMap<TurnoverFacts, { recipe: KeptRecipe; facts: TurnoverFacts }>()

/** The findings of the open reel as it stands, for the recipe that is chosen; null until the server has said what it knows. `measuredAt` is the number of the log at which the mix was measured. */
export function useFindings(): { findings: Findings | null; measuredAt: number | null; error: unknown } {
  const { id } = useReel()
  const recipe = useAppSelector((state) => state.recipe)
  const { data, error } = api.useFactsQuery({ reelId: id, recipeId: recipe.id }, { pollingInterval: LOOK_MS })
  const facts = data && askedOf(data, recipe)
  const doc = useAppSelector((state) => state.document.doc)
  const findings = useMemo(() => (facts ? findingsFor(doc, facts) : null), [doc, facts])
  return { findings, measuredAt: data?.mix?.seq ?? null, error }
}

/** What is still to be worked off in a state of the store; none where the server has not said yet what it knows. */
export function openFindings(state: RootState): readonly Finding[] {
  const { doc, reelId } = state.document
  const { recipe } = state
  const { data } = api.endpoints.facts.select({ reelId: reelId ?? '', recipeId: recipe.id })(state)
  return data ? findingsFor(doc, askedOf(data, recipe)).open : []
}

/** What tells a finding from all others while it lasts. */
export const findingKey = (finding: Finding): string =>
  `${finding.check} ${aboutKey(finding)} ${finding.at?.from ?? ''}`

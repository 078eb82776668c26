import type { PlanStrip, RenderPlan } from '@yodel/core'

/** What is new in a plan: an edit of one track sends that track, not thousands of voices. */
export interface PlanNews {
  readonly changed: readonly PlanStrip[]
  /** Keys of all strips, in their order. */
  readonly keys: readonly string[]
  readonly stems: RenderPlan['stems']
  readonly whole: RenderPlan['whole']
  readonly gain: number
}

/** What of a plan is not in the one before it. */
export function planNews(before: RenderPlan, after: RenderPlan): PlanNews {
  const known = new Set(before.strips)
  return {
    changed: after.strips.filter((strip) => !known.has(strip)),
    keys: after.strips.map(({ key }) => key),
    stems: after.stems,
    whole: after.whole,
    gain: after.gain,
  }
}

/** The plan that news make of the one before it. */
export function planAfter(before: RenderPlan, news: PlanNews): RenderPlan {
  const strips = new Map([...before.strips, ...news.changed].map((strip) => [strip.key, strip]))
  return {
    strips: news.keys.flatMap((key) => strips.get(key) ?? []),
    stems: news.stems,
    whole: news.whole,
    gain: news.gain,
  }
}

import { EMPTY_PLAN, type PlanStrip, type RenderPlan } from '@yodel/core'
import { expect, it } from 'vitest'
import { planAfter, planNews } from './planNews.js'

const strip = (key: string, level = 1): PlanStrip => ({
  key,
  voices: [],
  inserts: [],
  level,
  pan: 0,
  mono: false,
  stem: 'FX',
})

it('makes the plan of the news, of which only the touched tracks are a part', () => {
  const before: RenderPlan = { ...EMPTY_PLAN, strips: [strip('a'), strip('b'), strip('c')] }
  const [a, , c] = before.strips
  const after: RenderPlan = { ...EMPTY_PLAN, strips: [c!, strip('b', 0.5), a!] }
  const news = planNews(before, after)
  expect(news.changed.map(({ key }) => key)).toEqual(['b'])
  // What crosses threads comes out as another object.
  expect(planAfter(structuredClone(before), structuredClone(news))).toEqual(after)
  expect(planAfter(after, planNews(after, { ...after, strips: [] })).strips).toEqual([])
})

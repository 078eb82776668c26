import type { StackPlan } from '@yodel/core'
import { stacksApi } from '../../api/stacksApi.js'
import type { Keeper } from '../../api/useKept.js'
import { useAppSelector } from '../../document/store.js'

/** How the plans of the open reel's show are kept: one without layers is not worth it. */
export function usePlanKeeper(onKept: (id: string) => void): Keeper<StackPlan> {
  const reelId = useAppSelector((state) => state.document.reelId) ?? ''
  const [keep] = stacksApi.useKeepPlanMutation()
  const [drop] = stacksApi.useDropPlanMutation()
  const [fetchPlans] = stacksApi.useLazyPlansQuery()
  return {
    keep: async (plan) => {
      const answer = await keep({ reelId, plan })
      if (answer.data) onKept(plan.id)
      return answer
    },
    drop: (id) => drop({ reelId, id }),
    fetch: () => fetchPlans(reelId),
    isWorth: ({ layers }) => layers.length > 0,
  }
}

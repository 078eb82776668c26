import type { StackPlan } from '@yodel/core'
import { skipToken } from '@reduxjs/toolkit/query'
import { useEffect } from 'react'
import { stacksApi } from '../../api/stacksApi.js'
import { stackActions } from '../../document/stackSlice.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'

/** The plans of the show; the chosen one, and what its layers find, are kept up to date where variations are made of them. */
export function usePlans(): { plans: readonly StackPlan[] | undefined; error: unknown } {
  const dispatch = useAppDispatch()
  const reelId = useAppSelector((state) => state.document.reelId)
  const planId = useAppSelector((state) => state.stacking.planId)
  const { data: plans, error: noPlans } = stacksApi.usePlansQuery(reelId ?? skipToken, {
    refetchOnFocus: true,
  })
  const plan = plans?.find(({ id }) => id === planId) ?? null
  const asked = plan && reelId ? { reelId, planId: plan.id, version: plan.version } : skipToken
  const { currentData: found, error: nothingFound } = stacksApi.useFoundLayersQuery(asked)
  // The only plan, or the first, is chosen by itself.
  const first = plans?.[0]?.id ?? null
  useEffect(() => {
    if (plans && !plan && first !== planId) dispatch(stackActions.choosePlan(first))
  }, [plans, plan, first, planId, dispatch])
  useEffect(() => {
    dispatch(stackActions.setPlan(plan))
  }, [plan, dispatch])
  useEffect(() => {
    dispatch(stackActions.setFound(found ?? null))
  }, [found, dispatch])
  return { plans, error: noPlans ?? nothingFound }
}

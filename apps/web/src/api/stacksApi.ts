import type { FoundLayers, StackPlan, Variation } from '@yodel/core'
import { api } from './api.js'

/** What is asked of the server about plans of stacks. */
export const stacksApi = api.injectEndpoints({
  endpoints: (build) => ({
    plans: build.query<StackPlan[], string>({
      query: (reelId) => `/reels/${reelId}/plans`,
      providesTags: ['Plans'],
    }),
    keepPlan: build.mutation<StackPlan, { reelId: string; plan: StackPlan }>({
      query: ({ reelId, plan }) => ({ url: `/reels/${reelId}/plans/${plan.id}`, method: 'PUT', body: plan }),
      invalidatesTags: ['Plans'],
    }),
    dropPlan: build.mutation<null, { reelId: string; id: string }>({
      query: ({ reelId, id }) => ({ url: `/reels/${reelId}/plans/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Plans'],
    }),
    /** What the layers of a plan may pick from; asked anew for each version of it. */
    foundLayers: build.query<FoundLayers, { reelId: string; planId: string; version: number }>({
      query: ({ reelId, planId }) => `/reels/${reelId}/plans/${planId}/found`,
      keepUnusedDataFor: 0,
    }),
    writeStacks: build.mutation<
      { jobId: string },
      { reelId: string; planId: string; variations: readonly Variation[]; through: string | null }
    >({
      query: ({ reelId, planId, ...body }) => ({
        ...{ url: `/reels/${reelId}/plans/${planId}/write`, method: 'POST', body },
      }),
    }),
  }),
})

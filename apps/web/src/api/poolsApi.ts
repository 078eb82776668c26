import type { Pool, SoundPage } from '@yodel/core'
import { api } from './api.js'

/** What is asked of the server about pools. */
export const poolsApi = api.injectEndpoints({
  endpoints: (build) => ({
    /** The first results of a search, or the first sounds of a kit. */
    firstSounds: build.query<SoundPage, { q: string; kit?: string; cue?: '1'; like?: string }>({
      query: (params) => ({ url: '/sounds', params }),
      keepUnusedDataFor: 0,
    }),
    pools: build.query<Pool[], string>({
      query: (reelId) => `/reels/${reelId}/pools`,
      providesTags: ['Pools'],
    }),
    keepPool: build.mutation<Pool, { reelId: string; pool: Pool }>({
      query: ({ reelId, pool }) => ({ url: `/reels/${reelId}/pools/${pool.id}`, method: 'PUT', body: pool }),
      invalidatesTags: ['Pools'],
    }),
    dropPool: build.mutation<null, { reelId: string; id: string }>({
      query: ({ reelId, id }) => ({ url: `/reels/${reelId}/pools/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Pools'],
    }),
  }),
})

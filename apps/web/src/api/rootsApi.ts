import type { Roots } from '@yodel/core'
import { api } from './api.js'

/** What is asked of the server about folders that may be read. */
export const rootsApi = api.injectEndpoints({
  endpoints: (build) => ({
    roots: build.query<Roots, void>({
      query: () => '/roots',
      keepUnusedDataFor: 0,
      providesTags: ['Roots'],
    }),
    changeRoots: build.mutation<Roots, { path: string; add: boolean }>({
      query: ({ path, add }) => ({ url: '/roots', method: add ? 'POST' : 'DELETE', body: { path } }),
      invalidatesTags: ['Roots'],
    }),
  }),
})

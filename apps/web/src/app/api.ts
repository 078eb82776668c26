import type { Analysis, IncomingSheet, Job, Milestone, NewReel, Picture, ReelAt, ReelState, Shelf, Show, Sound, SoundPage, Watch, Watched } from '@yodel/core'
import { createApi, fetchBaseQuery } from '@reduxjs/toolkit/query/react'

/** Everything that is asked of the server but changes of a reel, which the document slice sends itself. */
export const api = createApi({
  reducerPath: 'api',
  baseQuery: fetchBaseQuery({ baseUrl: '/api' }),
  tagTypes: ['Shows', 'Shelves', 'Sounds', 'Picture', 'Milestones', 'Watched'],
  endpoints: (build) => ({
    shows: build.query<Show[], void>({ query: () => '/shows', providesTags: ['Shows'] }),
    newReel: build.mutation<{ id: string }, NewReel>({ query: (body) => ({ url: '/reels', method: 'POST', body }), invalidatesTags: ['Shows'] }),
    sounds: build.infiniteQuery<SoundPage, string, string | null>({
      infiniteQueryOptions: { initialPageParam: null, getNextPageParam: (last) => last.next ?? undefined },
      query: ({ queryArg, pageParam }) => ({ url: '/sounds', params: { q: queryArg, ...(pageParam ? { cursor: pageParam } : {}) } }),
      providesTags: ['Sounds'],
      keepUnusedDataFor: 30,
    }),
    soundsByIds: build.query<Sound[], string[]>({ query: (ids) => ({ url: '/sounds/by-ids', method: 'POST', body: { ids } }), providesTags: ['Sounds'] }),
    shelves: build.query<Shelf[], void>({ query: () => '/shelves', providesTags: ['Shelves'] }),
    addShelf: build.mutation<{ id: string }, { path: string; name: string }>({ query: (body) => ({ url: '/shelves', method: 'POST', body }), invalidatesTags: ['Shelves'] }),
    indexShelf: build.mutation<{ jobId: string }, string>({ query: (id) => ({ url: `/shelves/${id}/index`, method: 'POST' }), invalidatesTags: ['Shelves'] }),
    picture: build.query<Picture, string>({ query: (id) => `/pictures/${id}`, providesTags: ['Picture'] }),
    pickPicture: build.mutation<Picture, string>({ query: (path) => ({ url: '/pictures/pick', method: 'POST', body: { path } }) }),
    analysis: build.query<Analysis, string>({ query: (id) => `/pictures/${id}/analysis` }),
    milestones: build.query<Milestone[], string>({ query: (reelId) => `/reels/${reelId}/milestones`, providesTags: ['Milestones'] }),
    newMilestone: build.mutation<Milestone, { reelId: string; name: string }>({
      query: ({ reelId, name }) => ({ url: `/reels/${reelId}/milestones`, method: 'POST', body: { name } }),
      invalidatesTags: ['Milestones'],
    }),
    /** A reel as it was; the present one when no number is given. */
    reelAt: build.query<ReelAt, { reelId: string; seq: number | null }>({
      query: ({ reelId, seq }) => (seq === null ? `/reels/${reelId}` : `/reels/${reelId}/at/${seq}`),
      transformResponse: (answer: ReelAt | ReelState) => ({ seq: answer.seq, records: answer.records }),
      keepUnusedDataFor: 0,
    }),
    watched: build.query<Watched[], string>({ query: (reelId) => `/reels/${reelId}/watched`, providesTags: ['Watched'] }),
    addWatched: build.mutation<Watched[], { reelId: string; watch: Watch }>({
      query: ({ reelId, watch }) => ({ url: `/reels/${reelId}/watched`, method: 'POST', body: watch }),
      onQueryStarted: async ({ reelId }, { dispatch, queryFulfilled }) => {
        const answer = await queryFulfilled.catch(() => null)
        if (answer) dispatch(api.util.upsertQueryData('watched', reelId, answer.data))
      },
    }),
    readSheet: build.mutation<IncomingSheet, { reelId: string; file: File }>({
      query: ({ reelId, file }) => {
        const body = new FormData()
        body.append('sheet', file)
        return { url: `/reels/${reelId}/sheet`, method: 'POST', body }
      },
    }),
    job: build.query<Job, string>({ query: (id) => `/jobs/${id}` }),
    cancelJob: build.mutation<null, string>({ query: (id) => ({ url: `/jobs/${id}/cancel`, method: 'POST' }) }),
    bounce: build.mutation<{ jobId: string }, string>({ query: (id) => ({ url: `/reels/${id}/bounce`, method: 'POST' }) }),
  }),
})

/** The sentence to show for a request that failed. */
export function messageOf(error: unknown): string {
  const data = (error as { data?: { message?: string } } | undefined)?.data
  if (data?.message) return data.message
  return 'The server does not answer. It may be starting again; this page tries on by itself.'
}

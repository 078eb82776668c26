import type {
  Analysis,
  DrawnSheet,
  Folder,
  FoundSoundFile,
  FrameRateId,
  IncomingSheet,
  Job,
  KeptFile,
  KeptRecipe,
  KeptTurnover,
  Kit,
  LogLine,
  Looking,
  Milestone,
  NewReel,
  PastSearch,
  GuideChoice,
  Picture,
  Preparation,
  Recipe,
  ReelProgress,
  ThrownReel,
  RecordingsInUse,
  ReelAt,
  ReelState,
  SheetPaper,
  Shelf,
  ShelfEdit,
  Show,
  Sound,
  SoundEdit,
  SoundEvent,
  SoundFacets,
  SoundOrder,
  SoundPage,
  SoundUse,
  SplitSettings,
  TurnoverFacts,
  Watch,
  Watched,
} from '@yodel/core'
import { createApi, fetchBaseQuery, type FetchBaseQueryError } from '@reduxjs/toolkit/query/react'

/** A search for sounds as the server is asked it. */
export interface SoundParams {
  readonly q: string
  readonly cue?: '0' | '1'
  readonly sort?: SoundOrder
  readonly down?: '0' | '1'
  readonly beyond?: number
  readonly like?: string
  readonly kit?: string
  readonly show?: string
  /** Ids by commas; all shelves when absent. */
  readonly shelves?: string
}

/** Milliseconds after which what a server that was away was asked is asked again. */
const AGAIN_MS = 2000
const plainQuery = fetchBaseQuery({ baseUrl: '/api' })
let askingSoon = false

/** A query that goes on by itself: where the server is away, everything that is shown is asked again until it is back. */
const askingAgain: typeof plainQuery = async (args, ask, extra) => {
  const answer = await plainQuery(args, ask, extra)
  if (ask.type === 'query' && isAway(answer.error) && !askingSoon) {
    askingSoon = true
    setTimeout(() => {
      askingSoon = false
      ask.dispatch(api.internalActions.onOnline())
    }, AGAIN_MS)
  }
  return answer
}

/** Whether a request failed because the server was not there. */
function isAway(error: FetchBaseQueryError | undefined): boolean {
  return error !== undefined && ['FETCH_ERROR', 502, 503, 504].includes(error.status)
}

/** Everything that is asked of the server but changes of a reel, which the document slice sends itself. */
export const api = createApi({
  reducerPath: 'api',
  baseQuery: askingAgain,
  refetchOnReconnect: true,
  tagTypes: [
    'Recipes',
    'Roots',
    'Pools',
    'Plans',
    'Turnovers',
    'Facts',
    'Shows',
    'Shelves',
    'Sounds',
    'Events',
    'Kits',
    'Searches',
    'Picture',
    'Analysis',
    'Job',
    'Milestones',
    'Watched',
  ],
  endpoints: (build) => ({
    shows: build.query<Show[], void>({ query: () => '/shows', providesTags: ['Shows'] }),
    reelProgress: build.query<ReelProgress, string>({
      query: (id) => `/reels/${id}/progress`,
      providesTags: ['Shows'],
    }),
    renameShow: build.mutation<null, { id: string; name: string; company: string }>({
      query: ({ id, ...body }) => ({ url: `/shows/${id}`, method: 'PATCH', body }),
      invalidatesTags: ['Shows'],
    }),
    renameReel: build.mutation<null, { id: string; name: string }>({
      query: ({ id, name }) => ({ url: `/reels/${id}`, method: 'PATCH', body: { name } }),
      invalidatesTags: ['Shows'],
    }),
    thrown: build.query<ThrownReel[], void>({ query: () => '/thrown', providesTags: ['Shows'] }),
    throwReel: build.mutation<null, string>({
      query: (id) => ({ url: `/reels/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Shows'],
    }),
    bringBack: build.mutation<null, string>({
      query: (id) => ({ url: `/reels/${id}/back`, method: 'POST' }),
      invalidatesTags: ['Shows'],
    }),
    newReel: build.mutation<{ id: string }, NewReel>({
      query: (body) => ({ url: '/reels', method: 'POST', body }),
      invalidatesTags: ['Shows'],
    }),
    sounds: build.infiniteQuery<SoundPage, SoundParams, string | null>({
      infiniteQueryOptions: { initialPageParam: null, getNextPageParam: (last) => last.next ?? undefined },
      query: ({ queryArg, pageParam }) => ({
        url: '/sounds',
        params: { ...queryArg, ...(pageParam ? { cursor: pageParam } : {}) },
      }),
      providesTags: ['Sounds'],
      keepUnusedDataFor: 60,
    }),
    facets: build.query<SoundFacets, SoundParams>({
      query: ({ q, shelves, kit, show }) => ({ url: '/sounds/facets', params: { q, shelves, kit, show } }),
      providesTags: ['Sounds'],
    }),
    sound: build.query<Sound, string>({ query: (id) => `/sounds/${id}`, providesTags: ['Sounds'] }),
    soundFile: build.query<FoundSoundFile, string>({ query: (id) => `/sounds/${id}/file` }),
    editSounds: build.mutation<{ edited: number }, { ids: string[]; edit: SoundEdit }>({
      query: (body) => ({ url: '/sounds', method: 'PATCH', body }),
      invalidatesTags: ['Sounds'],
    }),
    uses: build.query<SoundUse[], string>({ query: (id) => `/sounds/${id}/uses`, keepUnusedDataFor: 0 }),
    events: build.query<{ events: SoundEvent[]; byHand: boolean }, string>({
      query: (id) => `/sounds/${id}/events`,
      providesTags: ['Events'],
    }),
    split: build.mutation<unknown, { id: string } & SplitSettings>({
      query: ({ id, ...body }) => ({ url: `/sounds/${id}/split`, method: 'POST', body }),
      invalidatesTags: ['Events', 'Sounds'],
    }),
    setEvents: build.mutation<null, { id: string; events: SoundEvent[] }>({
      query: ({ id, events }) => ({ url: `/sounds/${id}/events`, method: 'PUT', body: { events } }),
      invalidatesTags: ['Events', 'Sounds'],
    }),
    prepared: build.query<Preparation | null, string>({
      query: (id) => `/sounds/${id}/prepared`,
      keepUnusedDataFor: 0,
    }),
    prepare: build.mutation<null, { id: string; preparation: Preparation | null }>({
      query: ({ id, preparation }) => ({
        url: `/sounds/${id}/prepared`,
        method: 'PUT',
        body: JSON.stringify(preparation),
        headers: { 'content-type': 'application/json' },
      }),
    }),
    pastSearches: build.query<PastSearch[], { reelId: string; cueId: string }>({
      query: (params) => ({ url: '/searches', params }),
      providesTags: ['Searches'],
    }),
    noteSearch: build.mutation<null, { reelId: string; cueId: string; query: string }>({
      query: (body) => ({ url: '/searches', method: 'POST', body }),
      invalidatesTags: ['Searches'],
    }),
    kits: build.query<Kit[], void>({ query: () => '/kits', providesTags: ['Kits'] }),
    newKit: build.mutation<Kit, { name: string; parentId: string | null }>({
      query: (body) => ({ url: '/kits', method: 'POST', body }),
      invalidatesTags: ['Kits'],
    }),
    editKit: build.mutation<null, { id: string; name?: string; shared?: boolean; parentId?: string | null }>({
      query: ({ id, ...body }) => ({ url: `/kits/${id}`, method: 'PATCH', body }),
      invalidatesTags: ['Kits'],
    }),
    deleteKit: build.mutation<null, string>({
      query: (id) => ({ url: `/kits/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Kits'],
    }),
    fillKit: build.mutation<null, { id: string; ids: string[]; put: boolean }>({
      query: ({ id, ...body }) => ({ url: `/kits/${id}/sounds`, method: 'POST', body }),
      invalidatesTags: ['Kits', 'Sounds'],
    }),
    folders: build.query<Folder, string>({
      query: (path) => ({ url: '/folders', params: { path } }),
      keepUnusedDataFor: 0,
      providesTags: ['Roots'],
    }),
    editShelf: build.mutation<null, { id: string } & ShelfEdit>({
      query: ({ id, ...body }) => ({ url: `/shelves/${id}`, method: 'PATCH', body }),
      invalidatesTags: ['Shelves', 'Sounds'],
    }),
    removeShelf: build.mutation<null, string>({
      query: (id) => ({ url: `/shelves/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Shelves', 'Sounds'],
    }),
    pauseJob: build.mutation<null, { id: string; pause: boolean }>({
      query: ({ id, pause }) => ({ url: `/jobs/${id}/${pause ? 'pause' : 'resume'}`, method: 'POST' }),
      invalidatesTags: ['Job', 'Picture'],
    }),
    soundsByIds: build.query<Sound[], string[]>({
      query: (ids) => ({ url: '/sounds/by-ids', method: 'POST', body: { ids } }),
      providesTags: ['Sounds'],
    }),
    shelves: build.query<Shelf[], void>({ query: () => '/shelves', providesTags: ['Shelves'] }),
    addShelf: build.mutation<{ id: string }, { path: string; name: string; shared: boolean }>({
      query: (body) => ({ url: '/shelves', method: 'POST', body }),
      invalidatesTags: ['Shelves'],
    }),
    /** Reads the recordings that were dropped into the browser. */
    indexDropped: build.mutation<{ jobId: string }, void>({
      query: () => ({ url: '/shelves/dropped/index', method: 'POST' }),
      invalidatesTags: ['Shelves'],
    }),
    indexShelf: build.mutation<{ jobId: string }, string>({
      query: (id) => ({ url: `/shelves/${id}/index`, method: 'POST' }),
      invalidatesTags: ['Shelves'],
    }),
    picture: build.query<Picture, string>({ query: (id) => `/pictures/${id}`, providesTags: ['Picture'] }),
    /** How far a movie has been looked through, by the name that was given with it. */
    looking: build.query<Looking, string>({
      query: (look) => `/pictures/looking/${look}`,
      keepUnusedDataFor: 0,
    }),
    pickPicture: build.mutation<Picture, { path: string; short: boolean; look: string }>({
      query: ({ path, short, look }) => ({
        ...{ url: '/pictures/pick', method: 'POST', body: { path } },
        params: { look, ...(short ? { short: 'take' } : {}) },
      }),
    }),
    analysis: build.query<Analysis, string>({
      query: (id) => `/pictures/${id}/analysis`,
      providesTags: ['Analysis'],
    }),
    /** Which sound tracks of a picture are heard, and which is drawn; shown at once. */
    chooseGuides: build.mutation<Picture, GuideChoice & { id: string }>({
      query: ({ id, ...body }) => ({ url: `/pictures/${id}/guides`, method: 'PUT', body }),
      onQueryStarted: ({ id, ...choice }, { dispatch, queryFulfilled }) => {
        const shown = dispatch(api.util.updateQueryData('picture', id, (now) => ({ ...now, ...choice })))
        queryFulfilled.catch(() => shown.undo())
      },
      invalidatesTags: ['Picture', 'Analysis'],
    }),
    milestones: build.query<Milestone[], string>({
      query: (reelId) => `/reels/${reelId}/milestones`,
      providesTags: ['Milestones'],
    }),
    newMilestone: build.mutation<Milestone, { reelId: string; name: string }>({
      query: ({ reelId, name }) => ({ url: `/reels/${reelId}/milestones`, method: 'POST', body: { name } }),
      invalidatesTags: ['Milestones'],
    }),
    /** What was done to a reel. The number that it stands at is part of the question, so that a new one asks again. */
    log: build.query<LogLine[], { reelId: string; seq: number }>({
      query: ({ reelId }) => `/reels/${reelId}/log`,
      keepUnusedDataFor: 0,
    }),
    /** A reel as it was; the present one when no number is given. */
    reelAt: build.query<ReelAt, { reelId: string; seq: number | null }>({
      query: ({ reelId, seq }) => (seq === null ? `/reels/${reelId}` : `/reels/${reelId}/at/${seq}`),
      transformResponse: (answer: ReelAt | ReelState) => ({ seq: answer.seq, records: answer.records }),
      keepUnusedDataFor: 0,
    }),
    watched: build.query<Watched[], string>({
      query: (reelId) => `/reels/${reelId}/watched`,
      providesTags: ['Watched'],
    }),
    addWatched: build.mutation<Watched[], { reelId: string; watch: Watch }>({
      query: ({ reelId, watch }) => ({ url: `/reels/${reelId}/watched`, method: 'POST', body: watch }),
      onQueryStarted: async ({ reelId }, { dispatch, queryFulfilled }) => {
        const answer = await queryFulfilled.catch(() => null)
        if (answer) void dispatch(api.util.upsertQueryData('watched', reelId, answer.data))
      },
    }),
    readSheet: build.mutation<
      IncomingSheet,
      { reelId: string; file: File; rate: FrameRateId; sheet?: string | undefined }
    >({
      query: ({ reelId, file, rate, sheet }) => {
        const body = new FormData()
        body.append('sheet', file)
        return {
          url: `/reels/${reelId}/sheet`,
          method: 'POST',
          body,
          params: sheet ? { rate, sheet } : { rate },
        }
      },
    }),
    /** Where the recordings of a reel's show lie. */
    recordings: build.query<RecordingsInUse, string>({
      query: (reelId) => `/reels/${reelId}/recordings`,
      providesTags: ['Sounds', 'Facts'],
    }),
    gather: build.mutation<{ jobId: string }, string>({
      query: (reelId) => ({ url: `/reels/${reelId}/gather`, method: 'POST' }),
    }),
    /** What findings need and the document does not know. */
    facts: build.query<TurnoverFacts, { reelId: string; recipeId: string }>({
      query: ({ reelId, recipeId }) => ({ url: `/reels/${reelId}/facts`, params: { recipe: recipeId } }),
      providesTags: ['Facts'],
    }),
    recipes: build.query<KeptRecipe[], string>({
      query: (reelId) => `/reels/${reelId}/recipes`,
      providesTags: ['Recipes'],
    }),
    saveRecipe: build.mutation<KeptRecipe, { reelId: string; recipe: Recipe }>({
      query: ({ reelId, recipe }) => ({ url: `/reels/${reelId}/recipes`, method: 'POST', body: recipe }),
      invalidatesTags: ['Recipes'],
    }),
    changeRecipe: build.mutation<null, { id: string; recipe: Recipe }>({
      query: ({ id, recipe }) => ({ url: `/recipes/${id}`, method: 'PUT', body: recipe }),
      invalidatesTags: ['Recipes'],
    }),
    deleteRecipe: build.mutation<null, string>({
      query: (id) => ({ url: `/recipes/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Recipes'],
    }),
    turnovers: build.query<KeptTurnover[], string>({
      query: (reelId) => `/reels/${reelId}/turnovers`,
      providesTags: ['Turnovers'],
    }),
    turnoverFiles: build.query<KeptFile[], string>({
      query: (id) => `/turnovers/${id}`,
      transformResponse: (answer: { files: KeptFile[] }) => answer.files,
    }),
    clearTurnover: build.mutation<null, string>({
      query: (id) => ({ url: `/turnovers/${id}/files`, method: 'DELETE' }),
      invalidatesTags: ['Turnovers'],
    }),
    copyTurnover: build.mutation<{ jobId: string }, { id: string; path: string }>({
      query: ({ id, path }) => ({ url: `/turnovers/${id}/copies`, method: 'POST', body: { path } }),
    }),
    openPackageThere: build.mutation<{ jobId: string }, string>({
      query: (path) => ({ url: '/packages/there', method: 'POST', body: { path } }),
    }),
    turnOver: build.mutation<{ jobId: string }, { reelId: string; recipe: Recipe; name: string }>({
      query: ({ reelId, ...body }) => ({ url: `/reels/${reelId}/turnovers`, method: 'POST', body }),
    }),
    openPackage: build.mutation<{ jobId: string }, File>({
      query: (file) => {
        const body = new FormData()
        body.append('package', file)
        return { url: '/packages', method: 'POST', body }
      },
    }),
    /** The mix cue sheet as it would be printed. The number of the log is part of the question. */
    mixSheet: build.query<DrawnSheet, { reelId: string; paper: SheetPaper; seq: number }>({
      query: ({ reelId, paper: { landscape, ...paper } }) => ({
        url: `/reels/${reelId}/mix.json`,
        params: { ...paper, turned: landscape ? '1' : '0' },
      }),
      keepUnusedDataFor: 5,
    }),
    job: build.query<Job, string>({ query: (id) => `/jobs/${id}`, providesTags: ['Job'] }),
    cancelJob: build.mutation<null, string>({
      query: (id) => ({ url: `/jobs/${id}/cancel`, method: 'POST' }),
    }),
    bounce: build.mutation<{ jobId: string }, { reelId: string; recipe: Recipe }>({
      query: ({ reelId, recipe }) => ({ url: `/reels/${reelId}/bounce`, method: 'POST', body: { recipe } }),
    }),
  }),
})

/** The code of a request that was refused; empty where there is none. */
export function codeOf(error: unknown): string {
  return (error as { data?: { code?: string } } | undefined)?.data?.code ?? ''
}

/** The sentence to show for a request that failed. */
export function messageOf(error: unknown): string {
  const data = (error as { data?: { message?: string } } | undefined)?.data
  if (data?.message) return data.message
  return 'The server does not answer. It may be starting again; this page tries on by itself.'
}

/** Says whether the server has answered that it will not do what was asked, and would not another time either. */
export function isRefused(error: unknown): boolean {
  const status = (error as { status?: unknown } | undefined)?.status
  return typeof status === 'number' && status >= 400 && status < 500
}

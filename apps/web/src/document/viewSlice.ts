import type { Category, ReelDocument, ReelRecord, SinceLine } from '@yodel/core'
import { createSlice, type PayloadAction } from '@reduxjs/toolkit'
import { keptClosers, withCloser, type Closer, type Closers } from './closer.js'
import { lastWidth, passWidth } from './pictureWidth.js'
import type { Notice } from '../ui/Notices.js'

/** What the one place at the right of the Sheet can show. */
export const PANES = ['sounds', 'stacks', 'balance', 'notes', 'history'] as const
/** One of {@link PANES}. */
export type PaneName = (typeof PANES)[number]

/** How the reel is looked at; never saved with it and never undone. */
export interface ViewState {
  /** Ids of what is selected; cues or clips. */
  readonly selected: readonly string[]
  /** Pixels a frame. */
  readonly zoom: number
  /** Width of the column of the picture that is wished for, in pixels; see pictureWidth.ts. */
  readonly pictureWidth: number
  /** All tracks are to be in sight, however narrow they become. */
  readonly fitTracks: boolean
  /** Id of the track that has room while the others share what is left; null for none. */
  readonly wideTrack: string | null
  /** How closely the picture is looked at, by {@link closerKeyOf}. */
  readonly closers: Closers
  readonly showStrip: boolean
  /** What stands in the pane at the right, or null while it is shut. */
  readonly pane: PaneName | null
  /** Linear gain of the guide; 0 is off. */
  readonly guide: number
  /** The category that is spotted strongly, the others faintly; null for all alike. */
  readonly pass: Category | null
  /** How wide the picture was wished before the pass; null without one, or when it was large already. */
  readonly beforePass: number | null
  readonly notices: readonly Notice[]
  readonly help: boolean
  readonly palette: boolean
  /** The overview of the whole reel at the left of the Sheet. */
  readonly showOverview: boolean
  /** Id of the cue that was spotted last, whose words can be repeated; or null. */
  readonly lastSpotted: string | null
  /** Where a note is being written: on a cue or at a frame; or null. */
  readonly noting: { readonly cueId: string | null; readonly frame: number } | null
  /** Id of a cue whose words are to be typed now, or null. */
  readonly typing: string | null
  /** The ride that is drawn on the tracks, and edited instead of the sounds; null for none. */
  readonly ride: 'level' | 'pan' | null
  /** Clicks on the picture say where the source is: the track that follows it, and what was said so far (samples, 0 left to 1 right). */
  readonly following: {
    readonly trackId: string
    readonly seen: readonly (readonly [number, number])[]
  } | null
  /** Folders of tracks that are folded together. */
  readonly folded: readonly string[]
  /** Ids of stacks that are opened: their layers are drawn and chosen one by one. */
  readonly openStacks: readonly string[]
  /** A track that is ridden by hand: where the hand stands, and whether it is being written. */
  readonly riding: {
    readonly trackId: string
    readonly what: 'level' | 'pan'
    readonly value: number
    readonly writing: boolean
  } | null
  /** An earlier balance laid beside the present one, whether it is heard instead, and by how many dB it is then changed to be as loud. */
  readonly compared: {
    readonly name: string
    readonly seq: number
    readonly then: ReelDocument
    readonly heard: boolean
    readonly db: number
  } | null
  /** The finding that is being worked off on the Sheet, and which of the open ones it was; null while none is. */
  readonly workedOff: { readonly key: string; readonly at: number } | null
  /** What has changed since a turnover, marked on the Sheet, and which of it is looked at; null while nothing is. */
  readonly since: { readonly name: string; readonly lines: readonly SinceLine[]; readonly at: number } | null
  /** A record as it is being pulled: heard, and not in the document yet. */
  readonly pulled: ReelRecord | null
}

const initialState: ViewState = {
  selected: [],
  zoom: 2.12,
  pictureWidth: lastWidth(),
  fitTracks: false,
  wideTrack: null,
  closers: keptClosers(),
  showStrip: true,
  pane: 'sounds',
  guide: 1,
  pass: null,
  beforePass: null,
  notices: [],
  help: false,
  palette: false,
  showOverview: (globalThis.innerWidth ?? 0) >= 1500,
  lastSpotted: null,
  noting: null,
  typing: null,
  ride: null,
  following: null,
  folded: [],
  openStacks: [],
  riding: null,
  pulled: null,
  compared: null,
  workedOff: null,
  since: null,
}
/** By what a look at the picture is remembered: the reel, and the cue that is selected. */
export function closerKeyOf(state: {
  readonly view: ViewState
  readonly document: { readonly reelId: string | null; readonly doc: Pick<ReelDocument, 'cue'> }
}): string {
  const { reelId, doc } = state.document
  return `${reelId} ${state.view.selected.find((id) => doc.cue.get(id)) ?? ''}`
}

let noticeId = 0

const toggled = (all: readonly string[], one: string): readonly string[] =>
  all.includes(one) ? all.filter((other) => other !== one) : [...all, one]

/** Nearest and farthest zoom in pixels a frame. */
export const ZOOM = { least: 0.02, most: 48 } as const

const slice = createSlice({
  name: 'view',
  initialState: initialState as ViewState,
  reducers: {
    reset: (state) => ({
      ...initialState,
      zoom: state.zoom,
      pictureWidth: state.beforePass ?? state.pictureWidth,
      guide: state.guide,
      fitTracks: state.fitTracks,
      closers: state.closers,
      showStrip: state.showStrip,
      pane: state.pane,
      showOverview: state.showOverview,
    }),
    select: (state, { payload }: PayloadAction<readonly string[]>) => ({ ...state, selected: payload }),
    toggleSelected: (state, { payload }: PayloadAction<string>) => ({
      ...state,
      selected: toggled(state.selected, payload),
    }),
    zoomTo: (state, { payload }: PayloadAction<number>) => ({
      ...state,
      zoom: Math.min(ZOOM.most, Math.max(ZOOM.least, payload)),
    }),
    setPictureWidth: (state, { payload }: PayloadAction<number>) => ({ ...state, pictureWidth: payload }),
    widen: (state, { payload }: PayloadAction<string>) => ({
      ...state,
      wideTrack: state.wideTrack === payload ? null : payload,
    }),
    setCloser: (state, { payload }: PayloadAction<{ key: string; closer: Closer }>) => ({
      ...state,
      closers: withCloser(state.closers, payload.key, payload.closer),
    }),
    toggleFit: (state) => ({ ...state, fitTracks: !state.fitTracks }),
    toggleStrip: (state) => ({ ...state, showStrip: !state.showStrip }),
    showPane: (state, { payload }: PayloadAction<PaneName | null>) => ({ ...state, pane: payload }),
    compare: (state, { payload }: PayloadAction<ViewState['compared']>) => ({ ...state, compared: payload }),
    workOff: (state, { payload }: PayloadAction<ViewState['workedOff']>) => ({
      ...state,
      workedOff: payload,
    }),
    markSince: (state, { payload }: PayloadAction<ViewState['since']>) => ({ ...state, since: payload }),
    pull: (state, { payload }: PayloadAction<ReelRecord | null>) => ({ ...state, pulled: payload }),
    setGuide: (state, { payload }: PayloadAction<number>) => ({ ...state, guide: payload }),
    /** A pass begins or ends: while it lasts the picture is large, after it as it was, unless somebody has drawn it otherwise. */
    setPass: (state, { payload: { pass, page } }: PayloadAction<{ pass: Category | null; page: number }>) => {
      const { beforePass, pictureWidth } = state
      const large = passWidth(page)
      if (pass !== null && pictureWidth < large)
        return { ...state, pass, pictureWidth: large, beforePass: pictureWidth }
      if (pass !== null || beforePass === null) return { ...state, pass }
      return {
        ...state,
        pass,
        beforePass: null,
        pictureWidth: pictureWidth === large ? beforePass : pictureWidth,
      }
    },
    toggleOverview: (state) => ({ ...state, showOverview: !state.showOverview }),
    spotted: (state, { payload }: PayloadAction<string>) => ({
      ...state,
      lastSpotted: payload,
      selected: [payload],
    }),
    setNoting: (state, { payload }: PayloadAction<ViewState['noting']>) => ({ ...state, noting: payload }),
    setHelp: (state, { payload }: PayloadAction<boolean>) => ({ ...state, help: payload }),
    setPalette: (state, { payload }: PayloadAction<boolean>) => ({ ...state, palette: payload }),
    setTyping: (state, { payload }: PayloadAction<string | null>) => ({ ...state, typing: payload }),
    setRide: (state, { payload }: PayloadAction<ViewState['ride']>) => ({ ...state, ride: payload }),
    setFollowing: (state, { payload }: PayloadAction<ViewState['following']>) => ({
      ...state,
      following: payload,
    }),
    toggleFolder: (state, { payload }: PayloadAction<string>) => ({
      ...state,
      folded: toggled(state.folded, payload),
    }),
    toggleStack: (state, { payload }: PayloadAction<string>) => ({
      ...state,
      openStacks: toggled(state.openStacks, payload),
    }),
    setRiding: (state, { payload }: PayloadAction<ViewState['riding']>) => ({ ...state, riding: payload }),
    notify: (state, { payload }: PayloadAction<{ tone: Notice['tone']; text: string }>) => {
      const others = state.notices.filter((notice) => notice.text !== payload.text)
      return { ...state, notices: [...others, { id: ++noticeId, ...payload }].slice(-3) }
    },
    dismiss: (state, { payload }: PayloadAction<number>) => ({
      ...state,
      notices: state.notices.filter((notice) => notice.id !== payload),
    }),
  },
})

/** Actions of the view. */
export const viewActions = slice.actions
/** Reducer of the view. */
export const viewReducer = slice.reducer

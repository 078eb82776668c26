import type { Category } from '../../reel/categories.js'

/** Faces that text is set in; figures are all of one width. */
export type Face = 'plain' | 'bold' | 'figures'
/** Width of a text in points. */
export type Measure = (text: string, face: Face, size: number) => number

/** A piece of text: its left edge and its baseline, in points from the page's upper left corner. */
export interface DrawnText {
  readonly text: string
  readonly x: number
  readonly y: number
  readonly face: Face
  readonly size: number
}

/** A sound as it is drawn: a line from its start to its end, with its words to the right of that. */
export interface DrawnBox {
  readonly clipId: string
  /** The line, from where it begins on this page to where it ends. */
  readonly x: number
  readonly top: number
  readonly bottom: number
  /** It goes on from the page before, or on the next one. */
  readonly fromAbove: boolean
  readonly toBelow: boolean
  /** Height of its fades, 0 for a cut. */
  readonly fadeIn: number
  readonly fadeOut: number
  readonly text: readonly DrawnText[]
  /** Its words did not all find room. */
  readonly cut: boolean
}

/** A cue in the column of what is seen: a short line above its words. */
export interface DrawnCue {
  readonly cueId: string
  readonly y: number
  readonly text: readonly DrawnText[]
}

/** A track's column. */
export interface DrawnColumn {
  readonly trackId: string
  readonly category: Category
  readonly x: number
  readonly width: number
  readonly name: readonly DrawnText[]
}

/** A page of a mix cue sheet. */
export interface DrawnPage {
  /** Which group of tracks, from 1, and how many there are. */
  readonly sheet: number
  readonly sheets: number
  /** Of the whole paper, from 1. */
  readonly page: number
  readonly pages: number
  /** Frames of the reel, `[from, to)`. */
  readonly from: number
  readonly to: number
  readonly head: readonly DrawnText[]
  readonly foot: readonly DrawnText[]
  readonly columns: readonly DrawnColumn[]
  readonly boxes: readonly DrawnBox[]
  readonly cues: readonly DrawnCue[]
  /** Timecodes at the left edge of a page to scale. */
  readonly ruler: readonly DrawnText[]
}

/** A mix cue sheet as it is drawn, on paper and on the screen. */
export interface DrawnSheet {
  /** Points. */
  readonly width: number
  readonly height: number
  /** Where the columns' heads, their boxes and the page's body end, points from above. */
  readonly headTop: number
  readonly bodyTop: number
  readonly bodyBottom: number
  readonly left: number
  readonly right: number
  readonly pages: readonly DrawnPage[]
}

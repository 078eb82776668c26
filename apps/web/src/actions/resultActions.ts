import type { ResultsPart } from '../session/Parts.js'
import { readTable, type Action, type Line } from './action.js'

/** Stars that a sound can be given. */
export const RATINGS = [0, 1, 2, 3, 4, 5] as const

/** What the results of a search can be asked to do by whoever has the keyboard in them. */
export interface ResultHands extends ResultsPart {
  /** Tries the chosen sound, or keeps it while it is tried; on the page of sounds, plays it. */
  enter(): void
  /** Holds the tried layer while others are tried beside it. */
  hold(): void
  /** Puts back what is tried; otherwise stops and leaves. */
  escape(): void
  /** Goes on by so many results and marks those between. */
  mark(by: number): void
}

const ALT: readonly Line<ResultHands>[] = [
  ['next-event', 'Alt .', 'Next event of the recording', (r) => r.stepEvent(1)],
  ['previous-event', 'Alt ,', 'Previous event', (r) => r.stepEvent(-1)],
  ['put-in-kit', 'Alt k', 'Put it into the current kit', (r) => r.fillKit()],
  ...RATINGS.map((rating): Line<ResultHands> => [
    `rate-${rating}`,
    `Alt ${rating}`,
    `Rate it ${rating}`,
    (r) => r.rate(rating),
  ]),
]

/** Keys of any list of what can be tried. */
export const CANDIDATE_ACTIONS = readTable<Pick<ResultHands, 'step' | 'enter' | 'escape' | 'shuffle'>>([
  ['result-next', 'ArrowDown', 'Next result', (r) => r.step(1)],
  ['result-previous', 'ArrowUp', 'Previous result', (r) => r.step(-1)],
  ['result-enter', 'Enter', 'Try it; while trying, keep', (r) => r.enter()],
  ['result-leave', 'Escape', 'Put back; otherwise stop and leave', (r) => r.escape()],
  ['any-result', 'Alt r', 'Any one of the results', (r) => r.shuffle()],
])

/** Keys of the field in which is searched: the arrows to the side belong to the text. */
export const SEARCH_ACTIONS: readonly Action<ResultHands>[] = [
  ...CANDIDATE_ACTIONS,
  ...readTable<ResultHands>([
    ['result-hold', 'Shift Enter', 'Hold this layer, try another beside it', (r) => r.hold()],
    ...ALT,
  ]),
]

/** Keys of the list of results. */
export const RESULT_ACTIONS = [
  ...readTable<ResultHands>([
    ['result-event-next', 'ArrowRight', 'Next event of the recording', (r) => r.stepEvent(1)],
    ['result-event-previous', 'ArrowLeft', 'Previous event', (r) => r.stepEvent(-1)],
    ['result-mark-next', 'Shift ArrowDown', 'Mark the next result, too', (r) => r.mark(1)],
    ['result-mark-previous', 'Shift ArrowUp', 'Mark the previous result, too', (r) => r.mark(-1)],
  ]),
  ...SEARCH_ACTIONS,
]

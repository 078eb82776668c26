import { editCue, spotCue, type CueFields, type Reel, type ReelRecord, type ScratchLine } from '@yodel/core'
import { beginReel } from './fillReel.js'
import { REEL_2 } from './picture/story.js'
import { REEL_TWO } from './show.js'

/** Facts of the reel in which the telephone call of reel 2 is tried out with what was made on the spot. */
export const CALL_REEL: Reel = {
  ...REEL_TWO,
  ...{ id: 'demo-reel-2-call', name: 'Reel 2, the telephone call' },
}

/** A line of the call, said by a machine until the actors have come. */
export interface CallLine {
  readonly id: string
  /** Frames of the programme. */
  readonly from: number
  readonly to: number
  readonly words: string
  readonly fields: CueFields
  readonly said: Omit<ScratchLine, 'text'>
  /** Whether it is heard out of the receiver. */
  readonly distant: boolean
}

/** The lines of the call. */
export const CALL: readonly CallLine[] = [
  {
    ...{ id: 'call-1', from: 720, to: 800, words: '"Tolliver. Yes. I am still here."' },
    ...{ fields: { source: 'Signalman', onScreen: 'on' }, distant: false },
    said: { voice: 'flite rms', pace: 'cue', pitch: 0 },
  },
  {
    ...{ id: 'call-2', from: 806, to: 880, words: '"Then put the lamp out, and go home."' },
    ...{ fields: { source: 'Voice on the telephone', onScreen: 'off' }, distant: true },
    said: { voice: 'flite slt', pace: 'cue', pitch: 0 },
  },
  {
    ...{ id: 'call-3', from: 890, to: 960, words: '"In a minute. She is not through yet."' },
    ...{ fields: { source: 'Signalman', onScreen: 'on' }, distant: false },
    said: { voice: 'flite rms', pace: 'cue', pitch: 0 },
  },
]

/** The cue that takes were recorded for, and which of them is the best. */
export const COAT = { id: 'call-coat', takes: 3, best: 2 } as const

/** Builds the reel: its cues, without sounds. */
export function callRecords(pictureId: string | null): ReelRecord[] {
  const { run, records } = beginReel(CALL_REEL, pictureId, 'cut 1')
  const { leader } = REEL_2.facts
  const [from, to] = [leader + 690, leader + 716]
  const words = 'He sits, coat and paper bag'
  run((doc) => spotCue(doc, { id: COAT.id, category: 'FOL', in: from, out: to, words }))
  for (const { id, from, to, words, fields } of CALL) {
    run((doc) => spotCue(doc, { id, category: 'DX', in: leader + from, out: leader + to, words }))
    run((doc) => editCue(doc, { id, fields }))
  }
  return records()
}

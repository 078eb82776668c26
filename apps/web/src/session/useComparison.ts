import { useTables } from '../document/useTables.js'
import {
  compareSheets,
  cuesInOrder,
  differenceOf,
  FRAME_RATES,
  type ComparedCue,
  type Difference,
} from '@yodel/core'
import { useMemo } from 'react'
import { useAppSelector } from '../document/store.js'
import { useReel } from './session.js'

/** How differences are called beside a cue and in the list. */
export const DIFFERENCE_NAMES: Readonly<Record<Difference, string>> = {
  same: 'same',
  moved: 'moved',
  worded: 'worded otherwise',
  category: 'other category',
  mine: 'only here',
  theirs: 'only there',
}

const NONE: readonly ComparedCue[] = []

/** The lines of the comparison with the sheet that lies beside; empty when none does. */
export function useComparison(): readonly ComparedCue[] {
  const other = useAppSelector((state) => state.compare.other)
  const doc = useTables('cue')
  const { rate } = useReel()
  return useMemo(
    () => (other ? compareSheets(cuesInOrder(doc), other.cues, FRAME_RATES[rate].nominal) : NONE),
    [other, doc, rate],
  )
}

/** What the comparison found, by the id of a cue of this sheet or of the other. */
export function useDifferences(): ReadonlyMap<string, Difference> {
  const lines = useComparison()
  return useMemo(
    () =>
      new Map(
        lines.flatMap((line) =>
          [line.mine, line.theirs].flatMap((cue) => (cue ? [[cue.id, differenceOf(line)] as const] : [])),
        ),
      ),
    [lines],
  )
}

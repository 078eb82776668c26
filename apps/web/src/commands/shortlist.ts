import { shortlistOf, shortlistSound, type Candidate } from '@yodel/core'
import { askSounds, cantBeHad } from './askSounds.js'
import { tryActions } from '../document/trySlice.js'
import type { CommandContext } from './context.js'
import type { TryingCommands } from './trying.js'

/** Commands of {@link shortlistCommands}. */
export type ShortlistCommands = ReturnType<typeof shortlistCommands>

/** The sounds that came near for a cue: noting them, and trying them one after the other. */
export function shortlistCommands(context: CommandContext, tries: TryingCommands) {
  const { doc, cueHere, selected, edit, select, refuse, tell, dispatch, state, newId } = context

  /** Tries a candidate in the place of the one before; the one that comes next is made ready. */
  const tryCandidate = async (candidate: Candidate, following?: Candidate): Promise<void> => {
    const ids = [candidate.soundId, ...(following ? [following.soundId] : [])]
    const sounds = await askSounds(dispatch, ids)
    const sound = sounds?.find((one) => one.id === candidate.soundId)
    if (!sounds || !sound) return refuse(cantBeHad(candidate.name, sounds))
    const part = { in: candidate.in, out: candidate.out, sync: candidate.sync }
    dispatch(tryActions.chooseListed({ sound, part }))
    if (selected()[0] !== candidate.cueId) select([candidate.cueId])
    tries.here()
    const next = sounds.find((one) => one.id === following?.soundId)
    if (next) tries.prepare(next, following?.in ?? 0)
  }

  /** The shortlist of the cue that is tried for, or of the selected one, and where the tried sound stands on it; -1 for nowhere. */
  const here = (): { list: Candidate[]; at: number } => {
    const { sound, prepared, place } = state().trying
    const cueId = place?.cueId ?? cueHere()?.id
    const list = cueId === undefined ? [] : shortlistOf(doc(), cueId)
    const isTried = (one: Candidate): boolean =>
      one.soundId === sound?.id && one.in === prepared.in && one.out === prepared.out
    return { list, at: place ? list.findIndex(isTried) : -1 }
  }
  const tryAt = (list: readonly Candidate[], index: number): void => {
    const around = (at: number): Candidate | undefined => list[(at + list.length) % list.length]
    const next = around(index)
    if (next) void tryCandidate(next, around(index + 1))
  }

  return {
    /** Puts the chosen sound, as it is prepared, on the shortlist of the cue. */
    add: () => {
      const { sound, prepared, place } = state().trying
      const cueId = place?.cueId ?? cueHere()?.id
      if (!sound) return refuse('Choose a sound first.')
      if (cueId === undefined) return refuse('Select a cue first; its shortlist takes the sound.')
      const part = { in: prepared.in, out: prepared.out, sync: prepared.sync }
      if (edit((now) => shortlistSound(now, { id: newId(), cueId, sound, part }))) {
        tell(`${sound.name} is on the shortlist.`)
      }
    },
    tryCandidate,
    /** Tries the next candidate of the cue's shortlist, after the last one the first. */
    tryNext: () => {
      const { list, at } = here()
      if (list.length === 0)
        return refuse('This cue has no shortlist yet: choose a sound in the pane and add it first.')
      tryAt(list, at + 1)
    },
    /** While a sound is tried that was called from the cue's shortlist, tries the one beside it there. @returns Whether it does. */
    tryBeside: (step: 1 | -1): boolean => {
      const { list, at } = here()
      const goesOn = at >= 0 && state().trying.listed
      if (goesOn) tryAt(list, at + step)
      return goesOn
    },
  }
}

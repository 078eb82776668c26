import type { Sound } from '@yodel/core'
import type { AppDispatch } from '../document/store.js'
import { answerOf } from '../api/answerOf.js'
import { api } from '../api/api.js'

/** Asks for sounds by their ids: those that are on a shelf, in that order, or null where the server can't be asked. */
export async function askSounds(dispatch: AppDispatch, ids: readonly string[]): Promise<Sound[] | null> {
  return answerOf(dispatch(api.endpoints.soundsByIds.initiate([...ids]))).catch(() => null)
}

/** Why a sound can't be had that was asked for. @param found - What was answered */
export const cantBeHad = (name: string, found: readonly Sound[] | null): string =>
  found
    ? `${name} is on no shelf any more.`
    : `${name} could not be asked for: the server does not answer. Try again in a moment.`

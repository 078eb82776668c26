const messages = {
  CORE_RECORD_MISSING: 'a record that the change touches is not there',
  CORE_RECORD_EXISTS: 'a record that the change adds is already there',
  CORE_RECORD_CHANGED: 'a record was changed in the meantime',
  CORE_OVERLAP: 'sounds on one track may only meet in a crossfade',
  CORE_OUTSIDE_RECORDING: 'the clip reaches beyond its recording',
  CORE_BEFORE_REEL: 'nothing can lie before the first frame of the reel',
  CORE_BAD_SPAN: 'the end must lie after the beginning',
  CORE_NO_TRACK: 'the track is not in the reel',
  CORE_NUMBER_TAKEN: 'the cue number is already given out',
  CORE_LOCKED: 'it is locked; unlock it first',
  CORE_NO_HANDLE: 'the recording has nothing more to give there',
  CORE_NOT_NEIGHBOURS: 'the two sounds do not meet',
  CORE_BAD_RECORD: 'a record does not have the right form',
  CORE_NO_WORDS: 'it has no words',
  CORE_BAD_NUMBER: 'numbers are whole and begin at 1',
  CORE_BAD_LENGTH: 'the reel can’t be that long',
  CORE_REEL_IN_USE: 'the reel already holds cues or sounds, and another rate would move every one of them',
  CORE_REEL_GONE: 'a reel can’t be taken out of itself',
  CORE_BAD_CELL: 'that can’t be read',
  CORE_BAD_SHEET: 'the sheet can’t be read',
  CORE_NOT_WAV: 'the data is not a WAV file',
  CORE_NOT_OTIO: 'this is not an OpenTimelineIO timeline',
  CORE_NOT_ADL: 'this is not an ADL that can be read',
  CORE_NOTHING_DONE: 'nothing was changed',
  CORE_NOTHING_TO_LAY: 'nothing of it would be laid',
} as const

/** Codes of everything that core refuses; never reused. */
export type CoreErrorCode = keyof typeof messages

/** All of them. */
export const CORE_ERROR_CODES = Object.keys(messages) as CoreErrorCode[]

/** A refusal as a value: what expected refusals return instead of throwing. */
export interface Refusal {
  readonly ok: false
  readonly code: CoreErrorCode
  readonly message: string
}

/** A value or a refusal. */
export type Result<T> = { readonly ok: true; readonly value: T } | Refusal

/** Wraps a value as a success. */
export function ok<T>(value: T): { readonly ok: true; readonly value: T } {
  return { ok: true, value }
}

/** Makes a refusal: where it happened, the rule, and what was found. */
export function refuse(code: CoreErrorCode, where: string, found = ''): Refusal {
  return { ok: false, code, message: `${where}: ${messages[code]}${found ? ` (${found})` : ''}.` }
}

/** Thrown for a caller's mistake: a refusal that should have been ruled out before. */
export class CoreError extends Error {
  readonly code: CoreErrorCode

  constructor(refusal: Refusal) {
    super(refusal.message)
    this.name = 'CoreError'
    this.code = refusal.code
  }
}

/** Unwraps a result whose refusal would be a bug of the caller. @throws CoreError */
export function expectOk<T>(result: Result<T>): T {
  if (result.ok) return result.value
  throw new CoreError(result)
}

/** Ends a switch over a union: a value that gets here is a compile error. */
export function assertNever(value: never): never {
  throw new Error(`assertNever: unexpected ${JSON.stringify(value)}`)
}

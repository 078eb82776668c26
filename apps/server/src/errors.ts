/** Codes of everything the server refuses, never reused, each with its HTTP status. */
export const APP_ERRORS = {
  NOT_FOUND: 404,
  REEL_MISSING: 404,
  BAD_REQUEST: 400,
  CHANGE_REFUSED: 422,
  CHANGE_CONFLICT: 409,
  PATH_OUTSIDE_ROOTS: 403,
  PATH_MISSING: 404,
  MOVIE_UNREADABLE: 422,
  MOVIE_NO_PICTURE: 422,
  MOVIE_CUT_SHORT: 422,
  SOUND_UNREADABLE: 422,
  SHEET_UNREADABLE: 422,
  KIT_IN_ITSELF: 422,
  TOO_MUCH: 422,
  NOT_WAITED_FOR: 499,
  UPLOAD_EMPTY: 422,
  UPLOAD_TOO_LARGE: 413,
  RANGE: 416,
  VOICE_MISSING: 422,
  VOICE_FAILED: 502,
  TAKE_GAP: 409,
  TAKE_EMPTY: 422,
  DISK_FULL: 507,
  WRONG_ORIGIN: 403,
  WRONG_HOST: 421,
  DATABASE_AWAY: 503,
  INTERNAL: 500,
} as const

/** One of {@link APP_ERRORS}. */
export type AppErrorCode = keyof typeof APP_ERRORS

/** A refusal of the server. The message says what, where and what to do. */
export class AppError extends Error {
  constructor(
    readonly code: AppErrorCode,
    message: string,
    readonly details?: unknown,
  ) {
    super(message)
    this.name = 'AppError'
  }

  /** HTTP status that belongs to the code. */
  get status(): number {
    return APP_ERRORS[this.code]
  }
}

/** Says whether an error of the file system means that the disk is full. */
export function isDiskFull(error: unknown): boolean {
  const code = (error as { code?: unknown } | null)?.code
  return (
    code === 'ENOSPC' ||
    code === 'EDQUOT' ||
    /No space left on device/i.test(error instanceof Error ? error.message : '')
  )
}

/** Turns a full disk into a message that says so; anything else comes back as it was. */
export function explainDisk(error: unknown, what: string): unknown {
  return isDiskFull(error)
    ? new AppError(
        'DISK_FULL',
        `The disk is full, so ${what} was not written. Free some space in Yodel's data folder and try again.`,
      )
    : error
}

/** The first line of an error's message, for lists of problems. */
export function reasonOf(error: unknown): string {
  return (error instanceof Error ? error.message : String(error)).split('\n')[0] ?? 'unknown'
}

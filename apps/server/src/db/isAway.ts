import {
  QueryFailedError,
  QueryRunnerAlreadyReleasedError,
  QueryRunnerProviderAlreadyReleasedError,
  TransactionNotStartedError,
} from 'typeorm'

/** Codes of the system and of PostgreSQL (appendix A of its manual: connection exceptions, operator intervention). */
const AWAY = ['ECONNREFUSED', 'ECONNRESET', 'EPIPE', '57P01', '57P02', '57P03', '08000', '08003', '08006']
const WORDS =
  /Connection terminated|connection error and is not queryable|timeout exceeded when trying to connect/

/** Says whether an error means that the database does not answer for now: it is being started, stopped or replayed. */
export function isAway(error: unknown): boolean {
  // A transaction whose connection died in the middle is told so by its next step.
  if (
    error instanceof QueryRunnerAlreadyReleasedError ||
    error instanceof QueryRunnerProviderAlreadyReleasedError ||
    error instanceof TransactionNotStartedError
  )
    return true
  const cause = (error instanceof QueryFailedError ? error.driverError : error) as { code?: string }
  return AWAY.includes(cause.code ?? '') || WORDS.test(String((error as Error | null)?.message))
}

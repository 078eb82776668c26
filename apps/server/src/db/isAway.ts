import { QueryFailedError } from 'typeorm'

const AWAY = ['ECONNREFUSED', 'ECONNRESET', '57P01', '57P02', '57P03', '08006']

/** Says whether an error means that the database does not answer for now: it is being started, stopped or replayed. */
export function isAway(error: unknown): boolean {
  const cause = (error instanceof QueryFailedError ? error.driverError : error) as {
    code?: string
    message?: string
  }
  return (
    AWAY.includes(cause.code ?? '') ||
    /Connection terminated|timeout exceeded when trying to connect/.test(
      String((error as Error | null)?.message),
    )
  )
}

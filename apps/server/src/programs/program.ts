import { reasonOf } from '../errors.js'

/** Runs one of the programs beside the server: what goes wrong is said in words, and ends it with 1. */
export function runProgramOf(act: (args: readonly string[]) => Promise<void>): void {
  act(process.argv.slice(2)).catch((error: unknown) => {
    console.error(error instanceof Error ? error.message : reasonOf(error))
    process.exitCode = 1
  })
}

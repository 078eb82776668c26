import { existsSync } from 'node:fs'

/** The system's program that has a child end with its parent, however that ends. */
const SETPRIV = '/usr/bin/setpriv'

/** A command that the system ends when this process is killed; where it has no such program, the command as it is. */
export function dieWithUs(command: string, args: readonly string[]): [file: string, args: string[]] {
  return existsSync(SETPRIV)
    ? [SETPRIV, ['--pdeathsig', 'KILL', '--', command, ...args]]
    : [command, [...args]]
}

/** What a program that runs another ends with when there is no such one. */
export const NOT_FOUND = 127

import { createContext, useContext, useEffect, useMemo, type ReactNode } from 'react'
import { useAppStore } from '../document/store.js'
import { useSession } from '../session/session.js'
import { makeCommands, type Commands } from './commands.js'

const CommandsContext = createContext<Commands | null>(null)

/** Makes the commands once for the session that is open. */
export function CommandsProvider({ children }: { children: ReactNode }) {
  const store = useAppStore()
  const session = useSession()
  const commands = useMemo(() => makeCommands(store, session), [store, session])
  useEffect(() => commands.voices.follow(store), [commands, store])
  useEffect(() => void commands.record.recover(), [commands])
  return <CommandsContext value={commands}>{children}</CommandsContext>
}

/** The commands of the open reel. @throws Error outside of a reel */
export function useCommands(): Commands {
  const commands = useContext(CommandsContext)
  if (!commands) throw new Error('useCommands: no reel is open')
  return commands
}

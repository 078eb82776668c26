import { layList, sampleToFrame, type LayListArgs } from '@yodel/core'
import type { CommandContext } from './context.js'

/** Lists of placed sounds that came in. */
export function listCommands({ doc, rate, transport, edit, select, tell }: CommandContext) {
  return {
    /** Lays a list on tracks of its own, and goes to its first sound. @returns Whether anything was laid */
    lay: (args: LayListArgs): boolean => {
      const before = doc()
      if (!edit((now) => layList(now, args))) return false
      const laid = [...doc().clip.values()].filter(({ id }) => !before.clip.has(id))
      const [first] = laid.toSorted((a, b) => a.start - b.start)
      if (!first) return true
      select([first.id])
      transport.goToFrame(sampleToFrame(first.start, rate()))
      const tracks = doc().track.size - before.track.size
      tell(
        `${laid.length} ${laid.length === 1 ? 'sound' : 'sounds'} laid on ${tracks} new ${tracks === 1 ? 'track' : 'tracks'}, behind the others.`,
      )
      return true
    },
  }
}

import { ok, type Result } from '../errors.js'
import type { Change } from '../reel/change.js'
import type { ReelDocument } from '../reel/document.js'
import { checkCue } from '../reel/invariants.js'
import type { Cue } from '../reel/records.js'

/** Adds the cues of a previewed sheet, all in one step. @param args.ids - As many as cues. */
export function importCues(
  _: ReelDocument,
  args: { cues: readonly Omit<Cue, 'id'>[]; ids: readonly string[]; from: string },
): Result<Change> {
  const added: Cue[] = []
  for (const [index, fields] of args.cues.entries()) {
    const cue: Cue = { ...fields, id: args.ids[index] ?? `import-${index}` }
    const wrong = checkCue(cue)
    if (wrong) return wrong
    added.push(cue)
  }
  return ok({ label: `Import ${added.length} cues from ${args.from}`, added, updated: [], removed: [] })
}

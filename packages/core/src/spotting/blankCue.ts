import type { Cue } from '../reel/records.js'
import { frames } from '../time/units.js'
import type { Category } from '../reel/categories.js'

/** A cue about which nothing is known but its category and its frames. */
export function blankCue(at: {
  category: Category
  number: number
  in: number
  out: number
  sync: number
}): Omit<Cue, 'id'> {
  return {
    kind: 'cue',
    category: at.category,
    number: at.number,
    in: frames(at.in),
    out: frames(at.out),
    sync: frames(at.sync),
    words: '',
    source: '',
    where: '',
    scene: '',
    onScreen: 'unsaid',
    perspective: 'unsaid',
    notes: '',
    priority: 0,
    by: '',
    state: 'open',
    omitReason: '',
  }
}

import type { Cue } from '../reel/records.js'
import type { Category } from './categories.js'

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
    in: at.in,
    out: at.out,
    sync: at.sync,
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

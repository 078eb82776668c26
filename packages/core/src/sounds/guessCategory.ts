import type { Category } from '../reel/categories.js'

// Words and category codes that recordings are filed under (common practice, from memory); the first that fits decides.
const WORDS: readonly (readonly [Category, RegExp])[] = [
  ['FOL', /\b(foley|foot|feet|footsteps?|steps?|boots?|shoes?|cloth|clth|fabric|coat|sleeves?)\b/i],
  ['BG', /\b(amb|ambiences?|atmos|backgrounds?|room ?tones?|rain|wind|tones?|rooms?|air)\b/i],
  ['DX', /\b(dialogue|dialog|voices?|speech|walla)\b/i],
  ['MX', /\b(music|song|melody)\b/i],
  ['DSG', /\b(designed|design|drones?|whoosh|whooshes|risers?|sweeps?)\b/i],
]

/** Which category a recording is most likely meant for, by its words; hard effects when they say nothing else. */
export function guessCategory(sound: {
  readonly name: string
  readonly category: string
  readonly keywords: string
}): Category {
  for (const text of [sound.category, sound.name, sound.keywords]) {
    const found = WORDS.find(([, pattern]) => pattern.test(text))
    if (found) return found[0]
  }
  return 'FX'
}

/** Long words of track names, and where they may break: without a network a browser brings no rules for that. */
const WORDS = [
  'Back-ground',
  'Foot-step',
  'Atmos-phere',
  'Ambi-ence',
  'Move-ment',
  'Dia-logue',
  'Instru-ment',
].map((word) => word.split('-'))

const SOFT = '\u00AD'

/** A name with soft hyphens in the long words of the trade, so that a narrow column does not break them anywhere. */
export const hyphenated = (name: string): string =>
  WORDS.reduce(
    (text, parts) => text.replace(new RegExp(parts.join(''), 'gi'), (word) => broken(word, parts)),
    name,
  )

function broken(word: string, parts: readonly string[]): string {
  let at = 0
  return parts.map((part) => word.slice(at, (at += part.length))).join(SOFT)
}

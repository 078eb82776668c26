/**
 * Splits a file or sound name into words: at marks, between letters and digits, and where small letters meet capitals.
 * `DOOR_WOOD-Creak_03` gives `DOOR WOOD Creak 03`.
 */
export function splitName(name: string): string {
  return name
    .replace(/\.[A-Za-z0-9]{2,4}$/, '')
    .replace(/([\p{Ll}])([\p{Lu}])/gu, '$1 $2')
    .replace(/(\p{L})(\d)/gu, '$1 $2')
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim()
}

/** The words of a typed search, small letters, marks removed; at most 12. */
export function searchWords(text: string): string[] {
  return splitName(` ${text} `.replace(/\.(?=\S)/g, ' '))
    .toLocaleLowerCase('en')
    .split(' ')
    .filter((word) => word.length > 0)
    .slice(0, 12)
}

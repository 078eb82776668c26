/**
 * Splits a file or sound name into words: at marks, between letters and digits, and where small letters meet capitals.
 * `DOOR_WOOD-Creak_03` gives `DOOR WOOD Creak 03`.
 */
export function splitName(name: string): string {
  return name
    .replace(/\.[A-Za-z0-9]{2,4}$/, '')
    .replace(/([\p{Ll}])([\p{Lu}])/gu, '$1 $2')
    .replace(/(\p{L})(\d)/gu, '$1 $2')
    .replace(/[^\p{L}\p{N}\p{M}]+/gu, ' ')
    .trim()
}

/** A word as it is compared: small letters without accents (`Tür` is `tur`, `Straße` is `strasse`). */
export function plainWord(word: string): string {
  return word
    .toLocaleLowerCase('en')
    .replaceAll('ß', 'ss')
    .replaceAll('œ', 'oe')
    .replaceAll('æ', 'ae')
    .replaceAll('ø', 'o')
    .replaceAll('ł', 'l')
    .normalize('NFD')
    .replace(/\p{M}+/gu, '')
    .normalize('NFC')
}

/** All words of a text as they are compared, in their order. */
export function plainWords(text: string): string[] {
  return splitName(` ${text} `.replace(/\.(?=\S)/g, ' '))
    .split(' ')
    .map(plainWord)
    .filter((word) => word !== '')
}

/** A text as one token: `Footsteps & Cloth` is `footsteps-cloth`, `CC0 1.0` is `cc0-1-0`. */
export function slug(text: string): string {
  return plainWord(text)
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-+|-+$/g, '')
}

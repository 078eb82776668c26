import type { Reel } from '../reel/records.js'

/** The rule that a reel begins with. */
export const DEFAULT_NAME_RULE = '{show}_{reel}_{date}_{function}'

/** A name with an ending and a number added is good everywhere: file systems take 255 bytes. */
const MOST = { letters: 120, bytes: 200 }

/**
 * Makes a file name from words: letters and digits of any script stay, everything else becomes one hyphen;
 * the parts are joined by underscores. Never empty, never longer than 120 letters or 200 bytes of UTF-8:
 * the longest part gives way, so that what tells files apart stays.
 */
export function fileName(...parts: readonly string[]): string {
  const letters = parts
    .map((part) => part.replace(/[^\p{L}\p{N}]+/gu, '-').replace(/^-+|-+$/g, ''))
    .filter((part) => part.length > 0)
    .map((part) => [...part])
  const longest = (): string[] => letters.reduce((a, b) => (b.length > a.length ? b : a))
  while (isTooLong(letters.flat())) longest().pop()
  return letters.map((part) => part.join('')).join('_') || 'untitled'
}

function isTooLong(letters: readonly string[]): boolean {
  const bytes = letters.reduce((sum, letter) => sum + bytesOf(letter.codePointAt(0) ?? 0), 0)
  return letters.length > MOST.letters || bytes > MOST.bytes
}

/** Bytes of a character in UTF-8 (RFC 3629, section 3). */
const bytesOf = (point: number): number => (point < 0x80 ? 1 : point < 0x800 ? 2 : point < 0x10000 ? 3 : 4)

/**
 * Names a file after the rule of its reel. Unknown names in braces stay empty.
 *
 * @param what - The file's function ("cues", "mix").
 * @param date - Day as it shall be written, e.g. `2031-05-09`.
 */
export function nameByRule(
  reel: Pick<Reel, 'company' | 'show' | 'name' | 'nameRule'>,
  what: string,
  date: string,
): string {
  const values: Record<string, string> = {
    company: reel.company,
    show: reel.show,
    reel: reel.name,
    date,
    function: what,
  }
  const rule = reel.nameRule.trim() || DEFAULT_NAME_RULE
  return fileName(
    ...rule
      .split('_')
      .map((part) => part.replace(/\{(\w+)\}/g, (_, name: string) => values[name.toLowerCase()] ?? '')),
  )
}

/** The same names in the same order, with a number before the ending of each that another before it has, whatever the case of its letters. */
export function uniqueNames(names: readonly string[]): string[] {
  const taken = new Set<string>()
  return names.map((name) => {
    const [, stem = '', ending = ''] = /^(.*?)(\.[^.]*)?$/u.exec(name) ?? []
    let fresh = name
    for (let number = 2; taken.has(fresh.toLowerCase()); number++) fresh = `${stem}_${number}${ending}`
    taken.add(fresh.toLowerCase())
    return fresh
  })
}

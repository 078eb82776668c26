import type { Reel } from '../reel/records.js'

/** The rule that a reel begins with. */
export const DEFAULT_NAME_RULE = '{show}_{reel}_{date}_{function}'

/**
 * Makes a file name from words: letters and digits of any script stay, everything else becomes one hyphen;
 * the parts are joined by underscores. Never empty, never longer than 120 characters.
 */
export function fileName(...parts: readonly string[]): string {
  const joined = parts
    .map((part) => part.replace(/[^\p{L}\p{N}]+/gu, '-').replace(/^-+|-+$/g, ''))
    .filter((part) => part.length > 0)
    .join('_')
  return joined.slice(0, 120) || 'untitled'
}

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

/**
 * Makes a file name from words: letters and digits of any script stay, everything else becomes one underscore;
 * never empty, never longer than 120 characters.
 */
export function fileName(...parts: readonly string[]): string {
  const joined = parts
    .map((part) => part.replace(/[^\p{L}\p{N}]+/gu, '-').replace(/^-+|-+$/g, ''))
    .filter((part) => part.length > 0)
    .join('_')
  return joined.slice(0, 120) || 'untitled'
}

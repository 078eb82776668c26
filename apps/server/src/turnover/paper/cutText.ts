/**
 * Cuts a text in two so that the first part fits: between words, or inside of one that is too long by itself.
 *
 * @param fits - Says whether a text does; of a text that does, every beginning must, too.
 * @returns both parts; the second is empty where all fits, and the first is never empty.
 */
export function cutText(text: string, fits: (text: string) => boolean): [here: string, rest: string] {
  if (fits(text)) return [text, '']
  for (const pieces of [text.split(/(?<=\s)/u), [...text]]) {
    let [most, beyond] = [0, pieces.length]
    while (beyond - most > 1) {
      const middle = (most + beyond) >> 1
      if (fits(pieces.slice(0, middle).join(''))) most = middle
      else beyond = middle
    }
    if (most > 0) return [pieces.slice(0, most).join('').trimEnd(), pieces.slice(most).join('')]
  }
  const [first = '', ...rest] = text
  return [first, rest.join('')]
}

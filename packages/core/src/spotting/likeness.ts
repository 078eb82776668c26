/**
 * Says how alike two wordings are, 0 to 1: Dice's coefficient over pairs of neighbouring letters within words,
 * without case, accents and marks, so that word order and endings matter little. Two empty wordings are alike (1);
 * one empty wording says nothing (0).
 */
export function likeness(a: string, b: string): number {
  const left = letterPairs(a)
  const right = letterPairs(b)
  if (left.length === 0 || right.length === 0) return left.length === right.length ? 1 : 0
  const counts = new Map<string, number>()
  for (const pair of left) counts.set(pair, (counts.get(pair) ?? 0) + 1)
  let shared = 0
  for (const pair of right) {
    const count = counts.get(pair) ?? 0
    if (count === 0) continue
    counts.set(pair, count - 1)
    shared++
  }
  return (2 * shared) / (left.length + right.length)
}

function letterPairs(text: string): string[] {
  const plain = text.normalize('NFKD').toLowerCase().replace(/\p{M}/gu, '')
  return plain.split(/[^\p{L}\p{N}]+/u).flatMap((word) => {
    const letters = [...word]
    // A word of one letter, as many scripts have, counts as a pair of its own.
    return letters.length === 1
      ? letters
      : letters.slice(1).map((letter, index) => `${letters[index]}${letter}`)
  })
}

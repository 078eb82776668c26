/** Places are looked for by every so-and-so-many-th sample: at first everywhere, then near the place before. */
const ROUGHLY = 61
const NEARLY = 7
/** The first place is looked for in so much of what was fed. */
const FIRST = 60 * 48_000
/** How far around one is looked for that is not where the one before was. */
const FAR = 24_000
/** So alike is what is the same; a half second with a gap in it is less. */
const SURE = 0.9

/**
 * Where each half second of a recording lies in what was fed, in samples, and how alike both are there, from 0 to 1.
 * What was fed must be noise, which is like itself at one place only.
 */
export function lagsOf(got: Float32Array, given: Float32Array): { lag: number; alike: number }[] {
  const length = 24_000
  const alikeAt = (from: number, at: number, step: number): number => {
    let [product, own, other] = [0, 0, 0]
    for (let i = 0; i < length; i += step) {
      const [a, b] = [got[from + i]!, given[at + i]!]
      product += a * b
      own += a * a
      other += b * b
    }
    return product / Math.sqrt(own * other)
  }
  const found: { lag: number; alike: number }[] = []
  for (let from = length; from + length < got.length; from += length) {
    const among = (first: number, count: number, step: number): { lag: number; alike: number } => {
      let best = { lag: 0, alike: -1 }
      for (let at = Math.max(0, first); at < first + count && at + length <= given.length; at++) {
        const alike = alikeAt(from, at, step)
        if (alike > best.alike) best = { lag: at - from, alike }
      }
      return { ...best, alike: alikeAt(from, from + best.lag, 1) }
    }
    // Near the lag of the one before that was found; where it is not there, further around, and the first everywhere.
    const before = found.findLast(({ alike }) => alike > SURE)?.lag
    const near = before === undefined ? null : among(from + before - 200, 401, NEARLY)
    if (near && near.alike > SURE) found.push(near)
    else
      found.push(
        before === undefined ? among(0, FIRST, ROUGHLY) : among(from + before - FAR, 2 * FAR, ROUGHLY),
      )
  }
  return found
}

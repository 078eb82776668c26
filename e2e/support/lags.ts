/** Places are looked for by every so-and-so-many-th sample: at first everywhere, then near the place before. */
const ROUGHLY = 61
const NEARLY = 7
/** The first place is looked for in so much of what was fed. */
const FIRST = 60 * 48_000

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
    // Near the lag of the one before; the first is looked for everywhere, roughly, and then nearby.
    const before = found.at(-1)?.lag
    const places =
      before === undefined
        ? Array.from({ length: Math.min(given.length - length, FIRST) }, (_, at) => at)
        : Array.from({ length: 401 }, (_, index) => from + before - 200 + index)
    let best = { lag: 0, alike: -1 }
    for (const at of places) {
      if (at < 0 || at + length > given.length) continue
      const alike = alikeAt(from, at, before === undefined ? ROUGHLY : NEARLY)
      if (alike > best.alike) best = { lag: at - from, alike }
    }
    found.push({ ...best, alike: alikeAt(from, from + best.lag, 1) })
  }
  return found
}

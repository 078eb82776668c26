/** Bands in which a fit is judged, Hz: what is above is not in a place's room. */
const HIGHEST = 4000

/** How a sound dies away: what it loses in a second, dB, low down; what more of it high up; and where the one turns into the other, Hz. */
export interface Dying {
  readonly low: number
  readonly more: number
  readonly corner: number
}

/** Part of the decibels of a shelf of first order that is lost at a frequency: a half at its corner. For few decibels. */
const shelved = (hz: number, corner: number): number => hz ** 2 / (hz ** 2 + corner ** 2)

/**
 * Draws decays by one shelf, as near as it can in every band.
 *
 * @param decays - Seconds in which sound falls by 60 dB.
 * @param bands - Their frequencies, Hz; those above 4000 are left out.
 */
export function dyingOf(decays: readonly number[], bands: readonly number[]): Dying {
  const kept = bands
    .map((hz, band) => ({ hz, seconds: decays[band] as number }))
    .filter(({ hz }) => hz <= HIGHEST)
  let best: Dying = { low: 60 / (kept[0]?.seconds ?? 1), more: 0, corner: 1000 }
  let least = Infinity
  for (let corner = 150; corner < 6000; corner *= 1.1) {
    // Least squares of what each band loses, as parts of what it shall lose: low * p + more * q = 1.
    let [pp, pq, qq, p1, q1] = [0, 0, 0, 0, 0]
    for (const { hz, seconds } of kept) {
      const p = seconds / 60
      const q = p * shelved(hz, corner)
      pp += p * p
      pq += p * q
      qq += q * q
      p1 += p
      q1 += q
    }
    const under = pp * qq - pq * pq
    const low = (p1 * qq - q1 * pq) / under
    const more = (q1 * pp - p1 * pq) / under
    const off = Math.max(
      ...kept.map(({ hz, seconds }) => Math.abs(((low + more * shelved(hz, corner)) * seconds) / 60 - 1)),
    )
    if (off < least && low > 0) [least, best] = [off, { low, more, corner }]
  }
  return best
}

/** A filter of first order: `y = b0 x + b1 x' - a1 y'`. */
export type FirstOrder = readonly [b0: number, b1: number, a1: number]

/** The filter of a way of so many seconds, over which sound dies away so. @param rate - Samples a second */
export function dyingFilter({ low, more, corner }: Dying, seconds: number, rate: number): FirstOrder {
  const gain = 10 ** ((-low * seconds) / 20)
  const high = 10 ** ((-more * seconds) / 20)
  // (1 + s √high / w) / (1 + s / (√high w)) by the bilinear transform, exact at the corner.
  const turn = Math.tan((Math.PI * Math.min(corner, 0.45 * rate)) / rate)
  const over = Math.sqrt(high) / turn
  const under = 1 / (Math.sqrt(high) * turn)
  return [(gain * (1 + over)) / (1 + under), (gain * (1 - over)) / (1 + under), (1 - under) / (1 + under)]
}

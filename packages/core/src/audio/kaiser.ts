const BETA = 8
const PEAK = bessel(BETA)

/**
 * A sinc under a Kaiser window (beta 8: what it stops lies about 80 dB down).
 *
 * @param t - Place, in zero crossings of the sinc.
 * @param reach - Zero crossings on either side; 0 beyond.
 */
export function kaiserSinc(t: number, reach: number): number {
  if (Math.abs(t) >= reach) return 0
  const sinc = t === 0 ? 1 : Math.sin(Math.PI * t) / (Math.PI * t)
  return (sinc * bessel(BETA * Math.sqrt(1 - (t / reach) ** 2))) / PEAK
}

/** The modified Bessel function of the first kind and order 0, by its series. */
function bessel(x: number): number {
  let sum = 1
  for (let k = 1, term = 1; k < 30; k++) {
    term *= (x / (2 * k)) ** 2
    sum += term
  }
  return sum
}

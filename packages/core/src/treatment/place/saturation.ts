/**
 * A curve that bends what is loud: near the hyperbolic tangent (its continued fraction, cut off), exactly 1 from 3 on.
 * For small x it is x - 8/27 x^3.
 */
export function bend(x: number): number {
  if (x >= 3) return 1
  if (x <= -3) return -1
  const square = x * x
  return (x * (27 + square)) / (27 + 9 * square)
}

/** The slope of {@link bend}. @param x - Inside of -3 to 3 */
export function bendSlope(x: number): number {
  const square = x * x
  const under = 27 + 9 * square
  return ((27 + 3 * square) * under - 18 * square * (27 + square)) / (under * under)
}

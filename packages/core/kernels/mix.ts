// Sums with gains. They are computed with 64 bit and rounded once, as JavaScript does it on arrays of 32 bit: to the bit the same.

function low(x: v128): v128 {
  return f64x2.promote_low_f32x4(x)
}

function high(x: v128): v128 {
  return f64x2.promote_low_f32x4(v128.shuffle<f32>(x, x, 2, 3, 2, 3))
}

function rounded(low: v128, high: v128): v128 {
  return v128.shuffle<f32>(f32x4.demote_f64x2_zero(low), f32x4.demote_f64x2_zero(high), 0, 1, 4, 5)
}

function plus(at: usize, x: v128, gain: v128): void {
  const old = v128.load(at)
  const a = f64x2.add(low(old), f64x2.mul(low(x), gain))
  v128.store(at, rounded(a, f64x2.add(high(old), f64x2.mul(high(x), gain))))
}

/** Adds `count` samples to others with a gain, and nothing after them. */
export function addSound(into: usize, from: usize, count: i32, gain: f64): void {
  const by = f64x2.splat(gain)
  const whole = (<usize>(count & ~3)) << 2
  for (let at: usize = 0; at < whole; at += 16) plus(into + at, v128.load(from + at), by)
  for (let at = whole; at < (<usize>count) << 2; at += 4)
    store<f32>(into + at, <f32>(<f64>load<f32>(into + at) + <f64>load<f32>(from + at) * gain))
}

/** Adds `count` mono samples, and up to three after them, to a left and a right side. */
export function addMono(mono: usize, left: usize, right: usize, count: i32, toLeft: f64, toRight: f64): void {
  const l = f64x2.splat(toLeft)
  const r = f64x2.splat(toRight)
  for (let at: usize = 0; at < (<usize>count) << 2; at += 16) {
    const x = v128.load(mono + at)
    plus(left + at, x, l)
    plus(right + at, x, r)
  }
}

/** Adds `count` stereo samples, and up to three after them; `lr` is what of the left goes to the right. */
export function addStereo(
  fromLeft: usize,
  fromRight: usize,
  left: usize,
  right: usize,
  count: i32,
  ll: f64,
  lr: f64,
  rl: f64,
  rr: f64,
): void {
  for (let at: usize = 0; at < (<usize>count) << 2; at += 16) {
    const a = v128.load(fromLeft + at)
    const b = v128.load(fromRight + at)
    cross(left + at, a, b, f64x2.splat(ll), f64x2.splat(rl))
    cross(right + at, a, b, f64x2.splat(lr), f64x2.splat(rr))
  }
}

function cross(at: usize, a: v128, b: v128, p: v128, q: v128): void {
  const old = v128.load(at)
  const x = f64x2.add(f64x2.add(low(old), f64x2.mul(low(a), p)), f64x2.mul(low(b), q))
  const y = f64x2.add(f64x2.add(high(old), f64x2.mul(high(a), p)), f64x2.mul(high(b), q))
  v128.store(at, rounded(x, y))
}

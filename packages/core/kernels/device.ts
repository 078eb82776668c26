// What a device does to a sound: it bends what is loud, hisses and crackles, wavers; and what it stands in swells.

function bent(x: v128): v128 {
  // x (27 + x²) / (27 + 9 x²), and 1 from 3 on.
  const held = f32x4.min(f32x4.max(x, f32x4.splat(-3)), f32x4.splat(3))
  const square = f32x4.mul(held, held)
  const over = f32x4.mul(held, f32x4.add(square, f32x4.splat(27)))
  return f32x4.div(over, f32x4.add(f32x4.splat(27), f32x4.mul(square, f32x4.splat(9))))
}

/** Bends `count` samples in place, and up to three after them: x rest + (bend(x drive + bias) - middle) level. */
export function saturate(
  x: usize,
  count: i32,
  drive: f32,
  bias: f32,
  middle: f32,
  level: f32,
  rest: f32,
): void {
  const end = x + ((<usize>count) << 2)
  for (let p = x; p < end; p += 16) {
    const value = v128.load(p)
    const y = f32x4.sub(
      bent(f32x4.add(f32x4.mul(value, f32x4.splat(drive)), f32x4.splat(bias))),
      f32x4.splat(middle),
    )
    v128.store(p, f32x4.add(f32x4.mul(value, f32x4.splat(rest)), f32x4.mul(y, f32x4.splat(level))))
  }
}

/** Multiplies `count` samples by gains that run straight from one on, and nothing after them. */
export function ramp(x: usize, count: i32, from: f32, step: f32): void {
  let i: i32 = 0
  for (; i + 4 <= count; i += 4) {
    const p = x + ((<usize>i) << 2)
    const index = f32x4.add(f32x4.splat(<f32>i), f32x4(0, 1, 2, 3))
    v128.store(p, f32x4.mul(v128.load(p), f32x4.add(f32x4.splat(from), f32x4.mul(f32x4.splat(step), index))))
  }
  for (; i < count; i++) {
    const p = x + ((<usize>i) << 2)
    store<f32>(p, load<f32>(p) * (from + step * <f32>i))
  }
}

function hashes(sample: v128): v128 {
  // The finisher of MurmurHash3 (A. Appleby; from memory).
  let hash = i32x4.mul(v128.xor(sample, i32x4.shr_u(sample, 16)), i32x4.splat(0x85ebca6b))
  hash = i32x4.mul(v128.xor(hash, i32x4.shr_u(hash, 13)), i32x4.splat(0xc2b2ae35))
  return v128.xor(hash, i32x4.shr_u(hash, 16))
}

function hissOf(sample: v128, noise: f32, crackle: i32): v128 {
  const hash = hashes(sample)
  // The low bits say whether it crackles, so that a crackle may be of any height.
  const crackles = i32x4.lt_u(v128.and(hash, i32x4.splat(0xfffff)), i32x4.splat(crackle))
  const gain = v128.bitselect(f32x4.splat(noise * 61), f32x4.splat(noise), crackles)
  return f32x4.mul(f32x4.convert_i32x4_s(hash), f32x4.mul(gain, f32x4.splat(1.0 / 2147483648.0)))
}

/**
 * Writes the noise of `count` samples, and of up to three after them, of which the first is sample `at` of the reel.
 *
 * @param crackle - Crackles among 2^20 samples
 */
export function hiss(into: usize, count: i32, at: i32, noise: f32, crackle: i32): void {
  let sample = i32x4.add(i32x4.splat(at), i32x4(0, 1, 2, 3))
  const end = into + ((<usize>count) << 2)
  for (let p = into; p < end; p += 16) {
    v128.store(p, hissOf(sample, noise, crackle))
    sample = i32x4.add(sample, i32x4.splat(4))
  }
}

/** Adds `count` samples, and up to three after them, to others with a gain. */
export function add(into: usize, from: usize, count: i32, gain: f32): void {
  const by = f32x4.splat(gain)
  for (let i: usize = 0; i < (<usize>count) << 2; i += 16)
    v128.store(into + i, f32x4.add(v128.load(into + i), f32x4.mul(v128.load(from + i), by)))
}

/** What was heard lately: the loudest of what came, falling; `four` is how far it falls over four samples. */
export function heardAfter(x: usize, count: i32, heard: f64, fall: f64, four: f64): f64 {
  let i: i32 = 0
  if (count >= 4) {
    let loud = f32x4.splat(0)
    const by = f32x4.splat(<f32>four)
    for (; i + 4 <= count; i += 4) {
      const value = f32x4.abs(v128.load(x + ((<usize>i) << 2)))
      loud = f32x4.pmax(value, f32x4.mul(loud, by))
      heard *= four
    }
    let late = <f64>f32x4.extract_lane(loud, 3)
    late = max(late, <f64>f32x4.extract_lane(loud, 2) * fall)
    late = max(late, <f64>f32x4.extract_lane(loud, 1) * fall * fall)
    late = max(late, <f64>f32x4.extract_lane(loud, 0) * fall * fall * fall)
    heard = max(heard, late)
  }
  for (; i < count; i++) heard = max(<f64>abs(load<f32>(x + ((<usize>i) << 2))), heard * fall)
  return heard
}

/**
 * Writes `count` samples of a line, up to 512, each read a little late, between samples by the cubic through the four around it.
 *
 * @param from - In the line, where the first would be read if it were not late
 * @param late - Of the first, in 2^-20 samples: from 2 samples on, up to 512; `step` more for each that follows
 */
export function waver(into: usize, count: i32, from: usize, late: i32, step: i32): void {
  let place = -late
  for (let at: usize = 0; at < (<usize>count) << 2; at += 4) {
    const part = <f32>(place & 0xfffff) * <f32>(1.0 / 1048576.0)
    const p = from + (((<isize>place) >> 20) << 2)
    const a = load<f32>(p - 4)
    const b = load<f32>(p)
    const c = load<f32>(p, 4)
    const d = load<f32>(p, 8)
    // Catmull and Rom, 1974 (from memory).
    const half = <f32>0.5
    const one = half * (c - a)
    const two = a - <f32>2.5 * b + <f32>2 * c - half * d
    const three = half * (d - a) + <f32>1.5 * (b - c)
    store<f32>(into + at, ((three * part + two) * part + one) * part + b)
    place += 0x100000 - step
  }
}

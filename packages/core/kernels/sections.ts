// Sections of second order by their states: s1' = c1 x + s2 - a1 s1, s2' = c2 x - a2 s1, y = b0 x + s1, where c1 = b1 - a1 b0 and
// c2 = b2 - a2 b0. That is the transposed direct form II, but what comes out is not on the way from one state to the next.
//
// Four sections in a row lie in memory as rows of four numbers, one for each: b0, c1, c2, a1, a2, s1, s2 (64 bit). While a sample
// is in the fourth, the three behind it are in the others: none of them waits.

const ROW: usize = 4 << 3

function step(at: usize, x: f64): f64 {
  const s1 = load<f64>(at, 5 * ROW)
  store<f64>(at, load<f64>(at, ROW) * x + load<f64>(at, 6 * ROW) - load<f64>(at, 3 * ROW) * s1, 5 * ROW)
  store<f64>(at, load<f64>(at, 2 * ROW) * x - load<f64>(at, 4 * ROW) * s1, 6 * ROW)
  return load<f64>(at) * x + s1
}

function settle(at: usize): void {
  // Values that run out into nothing would make a processor crawl.
  for (let i: usize = 0; i < 2 * ROW; i += 8)
    if (abs(load<f64>(at + i, 5 * ROW)) < 1e-20) store<f64>(at + i, 0, 5 * ROW)
}

/** Sends `count` samples (32 bit) in place through four sections, whose memory is at `at`. */
export function fourSections(x: usize, count: i32, at: usize): void {
  if (count < 4) {
    for (let i: i32 = 0; i < count; i++) {
      const p = x + ((<usize>i) << 2)
      store<f32>(p, <f32>step(at + 24, step(at + 16, step(at + 8, step(at, <f64>load<f32>(p))))))
    }
    settle(at)
    return
  }
  // The first three samples are ahead in the first sections.
  let b = step(at, <f64>load<f32>(x))
  let c = step(at + 8, b)
  b = step(at, <f64>load<f32>(x, 4))
  let d = step(at + 16, c)
  c = step(at + 8, b)
  b = step(at, <f64>load<f32>(x, 8))

  const b0 = v128.load(at)
  const c1 = v128.load(at, ROW)
  const c2 = v128.load(at, 2 * ROW)
  const a1 = v128.load(at, 3 * ROW)
  const a2 = v128.load(at, 4 * ROW)
  let s1 = v128.load(at, 5 * ROW)
  let s2 = v128.load(at, 6 * ROW)
  const e0 = v128.load(at, 16)
  const d1 = v128.load(at, ROW + 16)
  const d2 = v128.load(at, 2 * ROW + 16)
  const f1 = v128.load(at, 3 * ROW + 16)
  const f2 = v128.load(at, 4 * ROW + 16)
  let t1 = v128.load(at, 5 * ROW + 16)
  let t2 = v128.load(at, 6 * ROW + 16)
  // What the first two and the last two gave at the step before.
  let y = f64x2(b, c)
  let z = f64x2(d, 0)
  const end = x + ((<usize>count) << 2)
  let p = x + 12
  for (; p < end; p += 4) {
    const u = v128.shuffle<f64>(f64x2.splat(<f64>load<f32>(p)), y, 0, 2)
    const v = v128.shuffle<f64>(y, z, 1, 2)
    y = f64x2.add(f64x2.mul(b0, u), s1)
    z = f64x2.add(f64x2.mul(e0, v), t1)
    const r1 = f64x2.sub(f64x2.add(f64x2.mul(c1, u), s2), f64x2.mul(a1, s1))
    s2 = f64x2.sub(f64x2.mul(c2, u), f64x2.mul(a2, s1))
    s1 = r1
    const q1 = f64x2.sub(f64x2.add(f64x2.mul(d1, v), t2), f64x2.mul(f1, t1))
    t2 = f64x2.sub(f64x2.mul(d2, v), f64x2.mul(f2, t1))
    t1 = q1
    store<f32>(p - 12, <f32>f64x2.extract_lane(z, 1))
  }
  v128.store(at, s1, 5 * ROW)
  v128.store(at, s2, 6 * ROW)
  v128.store(at, t1, 5 * ROW + 16)
  v128.store(at, t2, 6 * ROW + 16)
  // The last three are behind in the last sections.
  b = f64x2.extract_lane(y, 0)
  c = f64x2.extract_lane(y, 1)
  d = f64x2.extract_lane(z, 0)
  store<f32>(p - 12, <f32>step(at + 24, d))
  d = step(at + 16, c)
  store<f32>(p - 8, <f32>step(at + 24, d))
  c = step(at + 8, b)
  d = step(at + 16, c)
  store<f32>(p - 4, <f32>step(at + 24, d))
  settle(at)
}

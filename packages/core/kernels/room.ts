// The parts of a room: what smears a sound, the network of eight delays, the reflections that stand alone.

/** An all-pass in place: every tone as loud as before, spread in time. @param at - Sample of the memory, of `length`, that comes next */
export function smear(x: usize, count: i32, held: usize, length: i32, at: i32, by: f32): void {
  let p = held + ((<usize>at) << 2)
  const end = held + ((<usize>length) << 2)
  const stop = x + ((<usize>count) << 2)
  for (let i = x; i < stop; i += 4) {
    const old = load<f32>(p)
    // What dies away must not become so small that a processor crawls.
    const kept = load<f32>(i) - by * old + 1e-18
    store<f32>(i, old + by * kept)
    store<f32>(p, kept)
    p += 4
    if (p == end) p = held
  }
}

function lineAt(ring: usize, plane: usize, mask: i32, now: i32, lengths: usize, line: usize): usize {
  return ring + line * plane + ((<usize>((now - load<i32>(lengths + (line << 2))) & mask)) << 2)
}

/**
 * Lets `count` samples go round in eight delays: what comes out of each goes through its filter, then by a Hadamard matrix into all.
 *
 * @param ring - Of each delay `mask` + 1 samples; they lie `plane` bytes apart
 * @param now - Of the first sample
 * @param setup - Rows of eight: lengths (integers), then the filter of each, y = b0 x + s, s = b1 x - a1 y: b0, b1, a1, s
 * @param into - Gain with which a sample comes in, that of the matrix being as much
 */
export function goRound(
  from: usize,
  left: usize,
  right: usize,
  count: i32,
  ring: usize,
  plane: usize,
  mask: i32,
  now: i32,
  setup: usize,
  into: f32,
  level: f32,
): void {
  const b0 = v128.load(setup, 32)
  const d0 = v128.load(setup, 48)
  const b1 = v128.load(setup, 64)
  const d1 = v128.load(setup, 80)
  const a1 = v128.load(setup, 96)
  const c1 = v128.load(setup, 112)
  let s = v128.load(setup, 128)
  let t = v128.load(setup, 144)
  const halves = f32x4(1, 1, -1, -1)
  const pairs = f32x4(1, -1, 1, -1)
  const gain = f32x4.splat(into)
  for (let i: i32 = 0; i < count; i++, now++) {
    let x = v128.load_zero<f32>(lineAt(ring, plane, mask, now, setup, 0))
    x = v128.load_lane<f32>(lineAt(ring, plane, mask, now, setup, 1), x, 1)
    x = v128.load_lane<f32>(lineAt(ring, plane, mask, now, setup, 2), x, 2)
    x = v128.load_lane<f32>(lineAt(ring, plane, mask, now, setup, 3), x, 3)
    let y = v128.load_zero<f32>(lineAt(ring, plane, mask, now, setup, 4))
    y = v128.load_lane<f32>(lineAt(ring, plane, mask, now, setup, 5), y, 1)
    y = v128.load_lane<f32>(lineAt(ring, plane, mask, now, setup, 6), y, 2)
    y = v128.load_lane<f32>(lineAt(ring, plane, mask, now, setup, 7), y, 3)
    const u = f32x4.add(f32x4.mul(b0, x), s)
    const v = f32x4.add(f32x4.mul(d0, y), t)
    s = f32x4.sub(f32x4.mul(b1, x), f32x4.mul(a1, u))
    t = f32x4.sub(f32x4.mul(d1, y), f32x4.mul(c1, v))
    // The matrix in three steps: all against all is made of sums and differences.
    let p = f32x4.add(u, v)
    let q = f32x4.sub(u, v)
    p = f32x4.add(v128.shuffle<f32>(p, p, 2, 3, 0, 1), f32x4.mul(p, halves))
    q = f32x4.add(v128.shuffle<f32>(q, q, 2, 3, 0, 1), f32x4.mul(q, halves))
    p = f32x4.add(v128.shuffle<f32>(p, p, 1, 0, 3, 2), f32x4.mul(p, pairs))
    q = f32x4.add(v128.shuffle<f32>(q, q, 1, 0, 3, 2), f32x4.mul(q, pairs))
    // Its rows have nothing in common: two of them are what the ears hear.
    store<f32>(left + ((<usize>i) << 2), level * f32x4.extract_lane(p, 1))
    store<f32>(right + ((<usize>i) << 2), level * f32x4.extract_lane(q, 2))
    const comes = f32x4.splat(load<f32>(from + ((<usize>i) << 2)))
    p = f32x4.mul(gain, f32x4.add(p, f32x4.mul(comes, pairs)))
    q = f32x4.mul(gain, f32x4.add(q, f32x4.mul(comes, halves)))
    const at = ring + ((<usize>(now & mask)) << 2)
    v128.store_lane<f32>(at, p, 0)
    v128.store_lane<f32>(at + plane, p, 1)
    v128.store_lane<f32>(at + 2 * plane, p, 2)
    v128.store_lane<f32>(at + 3 * plane, p, 3)
    v128.store_lane<f32>(at + 4 * plane, q, 0)
    v128.store_lane<f32>(at + 5 * plane, q, 1)
    v128.store_lane<f32>(at + 6 * plane, q, 2)
    v128.store_lane<f32>(at + 7 * plane, q, 3)
  }
  v128.store(setup, s, 128)
  v128.store(setup, t, 144)
}

/** Remembers `count` samples for {@link addEchoes}, in a ring of `mask` + 1 whose first three lie behind its end once more. */
export function remember(from: usize, count: i32, ring: usize, mask: i32, now: i32): void {
  for (let i: i32 = 0; i < count; i++) {
    const at = (now + i) & mask
    const value = load<f32>(from + ((<usize>i) << 2))
    store<f32>(ring + ((<usize>at) << 2), value)
    if (at < 3) store<f32>(ring + ((<usize>(mask + 1 + at)) << 2), value)
  }
}

/** Adds what was remembered to `count` samples, and to up to three after them. @param echoes - For each: how late (integer), and its gain */
export function addEchoes(
  into: usize,
  count: i32,
  ring: usize,
  mask: i32,
  now: i32,
  echoes: usize,
  many: i32,
): void {
  for (let i: i32 = 0; i < count; i += 4) {
    let sum = v128.load(into + ((<usize>i) << 2))
    for (let echo: i32 = 0; echo < many; echo++) {
      const at = echoes + ((<usize>echo) << 3)
      const from = ring + ((<usize>((now + i - load<i32>(at)) & mask)) << 2)
      sum = f32x4.add(sum, f32x4.mul(v128.load(from), v128.load_splat<f32>(at + 4)))
    }
    v128.store(into + ((<usize>i) << 2), sum)
  }
}

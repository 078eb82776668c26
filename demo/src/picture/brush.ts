import type { SKRSContext2D } from '@napi-rs/canvas'

/** What is drawn with. */
export type Ctx = SKRSContext2D
/** The colour of what is near and dark. */
export const INK = '#0b1113'

/** A filled rectangle. */
export const rect = (g: Ctx, colour: string, x: number, y: number, w: number, h: number): void => {
  g.fillStyle = colour
  g.fillRect(x, y, w, h)
}

/** A filled circle. */
export const disc = (g: Ctx, colour: string, x: number, y: number, r: number): void => {
  g.fillStyle = colour
  g.beginPath()
  g.arc(x, y, r, 0, 2 * Math.PI)
  g.fill()
}

/** A line through points, with round ends. */
export const line = (g: Ctx, colour: string, width: number, ...points: number[]): void => {
  g.strokeStyle = colour
  g.lineWidth = width
  g.lineCap = 'round'
  g.beginPath()
  for (let i = 0; i < points.length; i += 2) g.lineTo(points[i] as number, points[i + 1] as number)
  g.stroke()
}

/** Rain before a window or a sky. */
export function rain(g: Ctx, frame: number, x: number, y: number, w: number, h: number, count: number): void {
  g.save()
  g.beginPath()
  g.rect(x, y, w, h)
  g.clip()
  for (let i = 0; i < count; i++) {
    const px = x + ((i * 97.3 + frame * 5) % (w + 20))
    const py = y + ((i * 53.7 + frame * (19 + (i % 5))) % (h + 20))
    line(g, '#5f7b86', 1, px, py, px - 4, py + 12)
  }
  g.restore()
}

/** How far a quick movement has gone: 0 before, 1 from the event's frame on; it begins `lead` frames earlier. */
export function arrival(frame: number, event: number, lead: number): number {
  const t = Math.min(1, Math.max(0, (frame - event + lead) / lead))
  return t * t * (3 - 2 * t)
}

/** A standing or walking figure; the leading foot meets the ground exactly on the frame of each step. */
export function figure(g: Ctx, x: number, ground: number, size: number, step: number, reach = 0): void {
  const stride = Math.cos(Math.PI * step) * 0.42
  const hip = ground - size * 0.46
  const lift = Math.sin(Math.PI * step) * size * 0.07
  for (const [side, up] of [
    [1, 0],
    [-1, lift],
  ] as const)
    line(g, INK, size * 0.1, x, hip, x + side * stride * size * 0.55, ground - up)
  rect(g, INK, x - size * 0.13, hip - size * 0.36, size * 0.26, size * 0.42)
  disc(g, INK, x, hip - size * 0.45, size * 0.1)
  rect(g, INK, x - size * 0.13, hip - size * 0.56, size * 0.26, size * 0.05)
  line(
    g,
    INK,
    size * 0.08,
    x,
    hip - size * 0.3,
    x + size * (0.1 + 0.3 * reach),
    hip - size * (0.05 + 0.15 * reach),
  )
}

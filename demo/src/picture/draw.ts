import type { SKRSContext2D } from '@napi-rs/canvas'
import { EVENTS, FPS, LEADER, lastEvent, POP, shotAt, type EventKind } from './story.js'

/** Size of the picture; the burnt-in timecode stands in the lowest 24 lines and can be cropped. */
export const WIDTH = 640
/** See {@link WIDTH}. */
export const HEIGHT = 384

type Ctx = SKRSContext2D
const NIGHT = '#16242c'
const INK = '#0b1113'
const LAMP = '#ffce73'

/** Draws one frame, counted from the reel's first frame. */
export function drawFrame(g: Ctx, frame: number, timecode: string): void {
  g.fillStyle = INK
  g.fillRect(0, 0, WIDTH, HEIGHT)
  if (frame < LEADER) leader(g, frame)
  else SCENES[shotAt(frame - LEADER).scene](g, frame)
  g.fillStyle = '#000'
  g.fillRect(0, 360, WIDTH, 24)
  g.fillStyle = '#fff'
  g.font = '16px monospace'
  g.fillText(`${timecode}   REEL 1  CUT 3`, 12, 378)
}

function leader(g: Ctx, frame: number): void {
  const left = Math.ceil((LEADER - frame) / FPS)
  g.fillStyle = '#d9d2bf'
  g.fillRect(0, 0, WIDTH, 360)
  if (frame > POP) {
    g.fillStyle = INK
    g.fillRect(0, 0, WIDTH, 360)
    return
  }
  g.fillStyle = '#bdb49d'
  g.beginPath()
  g.moveTo(320, 180)
  g.arc(320, 180, 400, -Math.PI / 2, -Math.PI / 2 + (2 * Math.PI * (frame % FPS)) / FPS)
  g.fill()
  g.fillStyle = INK
  g.font = 'bold 150px sans-serif'
  g.textAlign = 'center'
  g.fillText(String(left), 320, 232)
  g.textAlign = 'left'
  if (frame === POP) rect(g, '#d23f1e', 300, 20, 40, 40)
}

const rect = (g: Ctx, colour: string, x: number, y: number, w: number, h: number): void => {
  g.fillStyle = colour
  g.fillRect(x, y, w, h)
}

const disc = (g: Ctx, colour: string, x: number, y: number, r: number): void => {
  g.fillStyle = colour
  g.beginPath()
  g.arc(x, y, r, 0, 2 * Math.PI)
  g.fill()
}

const line = (g: Ctx, colour: string, width: number, ...points: number[]): void => {
  g.strokeStyle = colour
  g.lineWidth = width
  g.lineCap = 'round'
  g.beginPath()
  for (let i = 0; i < points.length; i += 2) g.lineTo(points[i] as number, points[i + 1] as number)
  g.stroke()
}

function rain(g: Ctx, frame: number, x: number, y: number, w: number, h: number, count: number): void {
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
function arrival(frame: number, event: number, lead: number): number {
  const t = Math.min(1, Math.max(0, (frame - event + lead) / lead))
  return t * t * (3 - 2 * t)
}

/** A standing or walking figure; the leading foot meets the ground exactly on the frame of each step. */
function figure(g: Ctx, x: number, ground: number, size: number, step: number, reach = 0): void {
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

/** Place within the present step, 0 at a footfall and rising to 1 at the next; 1 when nobody walks. */
function stepPhase(kind: EventKind, frame: number): { phase: number; count: number } {
  const steps = EVENTS.filter((event) => event.what === kind)
  const before = steps.filter((event) => event.frame <= frame)
  const last = before.at(-1)
  const next = steps.find((event) => event.frame > frame)
  if (!next) return { phase: 0, count: before.length }
  if (!last || next.frame - last.frame > 40)
    return { phase: next.frame - frame < 16 ? 1 - (next.frame - frame) / 16 : 0, count: before.length }
  return { phase: (frame - last.frame) / (next.frame - last.frame), count: before.length }
}

function lampGlow(g: Ctx, frame: number, x: number, y: number, r: number): void {
  const dies = EVENTS.find((event) => event.what === 'lamp')?.frame ?? 0
  if (frame >= dies) return disc(g, '#3a2f22', x, y, r)
  const flicker = dies - frame < 40 ? 0.4 + 0.6 * Math.abs(Math.sin(frame * 1.9)) : 1
  g.globalAlpha = 0.16 * flicker
  disc(g, LAMP, x, y, r * 6)
  g.globalAlpha = 1
  disc(g, LAMP, x, y, r * (0.7 + 0.3 * flicker))
}

const SCENES: Record<
  'yard' | 'box' | 'levers' | 'stove' | 'desk' | 'line' | 'waiting',
  (g: Ctx, frame: number) => void
> = {
  yard(g, frame) {
    rect(g, NIGHT, 0, 0, WIDTH, 290)
    rect(g, '#232a28', 0, 290, WIDTH, 70)
    const flash = lastEvent('thunder', frame + 3)
    if (flash && frame - flash.frame < 4) rect(g, '#9fb4bb', 0, 0, WIDTH, 290)
    rect(g, '#2b211a', 400, 90, 190, 200)
    const dark = lastEvent('lamp', frame) !== null
    rect(g, dark ? '#0d1416' : '#d9a44e', 420, 110, 150, 70)
    for (const x of [470, 520]) rect(g, '#2b211a', x, 110, 5, 70)
    const door = lastEvent('door', frame + 10)
    const open = door ? 1 - arrival(frame, door.frame, 10) : 1
    rect(g, '#0d1214', 340, 180, 52, 110)
    rect(g, '#4a3626', 340, 180, 52 * (1 - 0.8 * open), 110)
    line(g, '#38464a', 6, 90, 290, 90, 60)
    const arm = lastEvent('signal', frame + 8)
    const angle = arm ? 0.9 * (1 - arrival(frame, arm.frame, 8)) : 0.9
    line(g, '#c84a2a', 12, 90, 74, 90 + 78 * Math.cos(angle), 74 - 78 * Math.sin(angle))
    const { phase, count } = stepPhase('step gravel', frame)
    if (frame < LEADER + 288 && count < 14) figure(g, 20 + (count + phase) * 24, 296, 110, phase)
    rain(g, frame, 0, 0, WIDTH, 360, 130)
  },
  box(g, frame) {
    rect(g, '#231b15', 0, 0, WIDTH, 360)
    rect(g, '#22343b', 330, 40, 280, 130)
    rain(g, frame, 330, 40, 280, 130, 50)
    for (const x of [330, 470, 606]) rect(g, INK, x, 40, 6, 130)
    lampGlow(g, frame, 560, 60, 14)
    const ring = lastEvent('bell', frame)
    const swing = ring && frame - ring.frame < 10 ? Math.sin((frame - ring.frame) * 1.6) * 7 : 0
    disc(g, '#a8853e', 280 + swing, 90, 20)
    rect(g, '#3a2a1e', 0, 290, WIDTH, 70)
    for (let i = 0; i < 9; i++) leverAt(g, frame, i, 300 + i * 30, 296, 110)
    const { phase, count } = stepPhase('step boards', frame)
    const second = frame > LEADER + 1900
    const walked = second ? count - 9 : count
    figure(
      g,
      second ? 260 - (walked + phase) * 34 : 20 + (walked + phase) * 26,
      306,
      190,
      phase,
      walked >= 9 ? 1 : 0,
    )
  },
  levers(g, frame) {
    rect(g, '#1d1712', 0, 0, WIDTH, 360)
    rect(g, '#4a3a2c', 0, 300, WIDTH, 60)
    for (let i = 4; i < 9; i++) leverAt(g, frame, i, 90 + (i - 4) * 110, 312, 230)
    const ring = lastEvent('bell', frame, 'one')
    const swing = ring && frame - ring.frame < 12 ? Math.sin((frame - ring.frame) * 1.6) * 9 : 0
    disc(g, '#a8853e', 560 + swing, 60, 34)
    line(g, '#6b5528', 6, 560 - swing, 94, 560 - swing * 2, 116)
  },
  stove(g, frame) {
    rect(g, '#1b1512', 0, 0, WIDTH, 360)
    rect(g, '#0d0d0d', 180, 220, 280, 140)
    disc(g, '#d8612a', 320, 300, 34)
    const lid = lastEvent('lid', frame)
    const hop =
      lid && frame - lid.frame >= 0
        ? Math.max(0, 5 - Math.abs(((frame - lid.frame) % 9) - 5)) * (frame - lid.frame < 9 ? 1 : 0)
        : 0
    const pour = lastEvent('pour', frame + 12)
    const tilt = pour && frame - pour.frame < 50 ? arrival(frame, pour.frame, 12) : 0
    g.save()
    g.translate(320 + 90 * tilt, 200 - 60 * tilt)
    g.rotate(0.6 * tilt)
    rect(g, '#55605f', -56, -50, 112, 70)
    line(g, '#55605f', 14, 50, -20, 92, -46)
    rect(g, '#79827f', -44, -60 - hop * 2, 88, 9)
    g.restore()
    rect(g, '#d8d2c2', 500, 250, 50, 44)
    if (pour && frame >= pour.frame && frame - pour.frame < 50) line(g, '#b07a3a', 5, 500, 172, 524, 252)
    for (let i = 0; i < 6; i++) {
      const rise = (frame * 3 + i * 41) % 130
      g.globalAlpha = 0.3 * (1 - rise / 130)
      disc(g, '#c9d2d2', 415 + Math.sin(frame / 9 + i) * 9, 150 - rise, 10 + rise / 7)
      g.globalAlpha = 1
    }
  },
  desk(g, frame) {
    rect(g, '#241b14', 0, 0, WIDTH, 360)
    rect(g, '#4a3424', 0, 240, WIDTH, 120)
    lampGlow(g, frame, 90, 90, 18)
    const shut = lastEvent('register', frame + 8)
    const closing = shut ? arrival(frame, shut.frame, 8) : 0
    rect(g, '#e5dcc3', 180, 220, 150, 34)
    rect(
      g,
      closing > 0.9 ? '#6a2f22' : '#e5dcc3',
      330 - 150 * closing,
      220 - 40 * Math.sin(Math.PI * closing),
      150,
      34,
    )
    const drop = lastEvent('pen drops', frame + 7)
    const pen = lastEvent('pen', frame)
    const fall = drop ? arrival(frame, drop.frame, 7) : 0
    const stroke = pen && frame - pen.frame < 40 && !drop ? Math.sin(frame * 1.3) * 7 : 0
    line(
      g,
      '#c84a2a',
      5,
      360 + stroke + 110 * fall,
      214 + 76 * fall,
      380 + stroke + 150 * fall,
      160 + 128 * fall,
    )
    if (!drop) line(g, INK, 34, 372 + stroke, 180, 470, 250)
  },
  line(g, frame) {
    rect(g, NIGHT, 0, 0, WIDTH, 260)
    rect(g, '#20262a', 0, 260, WIDTH, 100)
    line(g, '#56636a', 4, 0, 300, WIDTH, 300)
    const first = EVENTS.find((event) => event.what === 'train')?.frame ?? 0
    const last = EVENTS.findLast((event) => event.what === 'train')?.frame ?? 0
    const at = (frame - first) / (last - first)
    const x = -700 + at * 1900
    for (let car = 0; car < 4; car++) {
      const left = x - car * 170
      rect(g, car === 0 ? '#0a0f11' : '#2f2a26', left, car === 0 ? 200 : 218, 150, car === 0 ? 84 : 66)
      for (const wheel of [30, 116]) disc(g, '#0a0f11', left + wheel, 290, 17)
      if (car === 0) rect(g, LAMP, left + 140, 222, 12, 12)
    }
    rain(g, frame, 0, 0, WIDTH, 360, 90)
  },
  waiting(g, frame) {
    rect(g, '#2a2f2c', 0, 0, WIDTH, 360)
    rect(g, '#3b3a30', 0, 280, WIDTH, 80)
    disc(g, '#ded6bf', 320, 90, 46)
    const tick = lastEvent('clock', frame)
    const hand = tick ? EVENTS.filter((event) => event.what === 'clock' && event.frame <= frame).length : 0
    line(g, INK, 4, 320, 90, 320 + 36 * Math.sin(hand * 0.5), 90 - 36 * Math.cos(hand * 0.5))
    rect(g, '#4b3523', 110, 250, 200, 16)
    rect(g, '#15110d', 500, 130, 46, 90)
    const ring = lastEvent('telephone', frame)
    const shake = ring && frame - ring.frame < 30 ? ((frame % 2) * 2 - 1) * 3 : 0
    disc(g, '#a8853e', 512 + shake, 148, 9)
    disc(g, '#a8853e', 534 + shake, 148, 9)
    const door = lastEvent('door', frame + 16)
    const open = door && door.frame > LEADER + 1680 ? arrival(frame, door.frame, 16) : 0
    rect(g, '#0c1012', 20, 130, 70, 150)
    rect(g, '#5a4330', 20, 130, 70 * (1 - 0.7 * (1 - open)), 150)
  },
}

function leverAt(g: Ctx, frame: number, index: number, x: number, base: number, length: number): void {
  const names: Record<number, string> = { 3: 'four', 6: 'seven', 8: 'nine' }
  const name = names[index]
  const thrown = name ? lastEvent('lever', frame + 10, name) : null
  const lean = thrown ? arrival(frame, thrown.frame, 10) : 0
  const angle = -0.25 + 0.7 * lean
  line(
    g,
    index === 8 ? '#c84a2a' : '#7c8a90',
    length * 0.05,
    x,
    base,
    x + Math.sin(angle) * length,
    base - Math.cos(angle) * length,
  )
  disc(g, '#c9c3b2', x + Math.sin(angle) * length, base - Math.cos(angle) * length, length * 0.04)
}

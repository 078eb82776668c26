import { arrival, disc, figure, INK, line, rain, rect, type Ctx } from './brush.js'
import type { EventKind, Scene, Story } from './story.js'

const NIGHT = '#16242c'
const LAMP = '#ffce73'
const WIDTH = 640

/** What is on screen: a shot of a story. */
interface Shown {
  readonly story: Story
  readonly shot: ReturnType<Story['shotAt']>
}

/** Where somebody is in walking through a shot. */
interface Steps {
  /** 0 at a footfall and rising to 1 at the next; 0 when nobody walks. */
  readonly phase: number
  /** Footfalls so far, and in the whole shot. */
  readonly count: number
  readonly all: number
}

/** Steps of a shot so far, and the place within the present one, 0 at a footfall and rising to 1 at the next; 1 when nobody walks. */
function stepPhase(kind: EventKind, frame: number, { story, shot }: Shown): Steps {
  const { leader } = story.facts
  const steps = story.events.filter(
    (event) => event.what === kind && event.frame >= leader + shot.from && event.frame < leader + shot.to,
  )
  const before = steps.filter((event) => event.frame <= frame)
  const last = before.at(-1)
  const next = steps.find((event) => event.frame > frame)
  const all = steps.length
  if (!next) return { phase: 0, count: before.length, all }
  if (!last || next.frame - last.frame > 40)
    return { phase: next.frame - frame < 16 ? 1 - (next.frame - frame) / 16 : 0, count: before.length, all }
  return { phase: (frame - last.frame) / (next.frame - last.frame), count: before.length, all }
}

function lampGlow(g: Ctx, story: Story, frame: number, x: number, y: number, r: number): void {
  const dies = story.events.find((event) => event.what === 'lamp')?.frame ?? Infinity
  if (frame >= dies) return disc(g, '#3a2f22', x, y, r)
  const flicker = dies - frame < 40 ? 0.4 + 0.6 * Math.abs(Math.sin(frame * 1.9)) : 1
  g.globalAlpha = 0.16 * flicker
  disc(g, LAMP, x, y, r * 6)
  g.globalAlpha = 1
  disc(g, LAMP, x, y, r * (0.7 + 0.3 * flicker))
}

/** How each scene is drawn. */
export const SCENES: Record<Scene, (g: Ctx, frame: number, shown: Shown) => void> = {
  yard(g, frame, shown) {
    const { story } = shown
    rect(g, NIGHT, 0, 0, WIDTH, 290)
    rect(g, '#232a28', 0, 290, WIDTH, 70)
    const flash = story.last('thunder', frame + 3)
    if (flash && frame - flash.frame < 4) rect(g, '#9fb4bb', 0, 0, WIDTH, 290)
    rect(g, '#2b211a', 400, 90, 190, 200)
    const dark = story.last('lamp', frame) !== null
    rect(g, dark ? '#0d1416' : '#d9a44e', 420, 110, 150, 70)
    for (const x of [470, 520]) rect(g, '#2b211a', x, 110, 5, 70)
    const door = story.last('door', frame + 10)
    const open = door ? 1 - arrival(frame, door.frame, 10) : 1
    rect(g, '#0d1214', 340, 180, 52, 110)
    rect(g, '#4a3626', 340, 180, 52 * (1 - 0.8 * open), 110)
    line(g, '#38464a', 6, 90, 290, 90, 60)
    const arm = story.last('signal', frame + 8)
    const angle = arm ? 0.9 * (1 - arrival(frame, arm.frame, 8)) : 0.9
    line(g, '#c84a2a', 12, 90, 74, 90 + 78 * Math.cos(angle), 74 - 78 * Math.sin(angle))
    const { phase, count, all } = stepPhase('step gravel', frame, shown)
    if (all > 0) figure(g, 20 + (count + phase) * 24, 296, 110, phase)
    rain(g, frame, 0, 0, WIDTH, 360, 130)
  },
  box(g, frame, shown) {
    const { story } = shown
    rect(g, '#231b15', 0, 0, WIDTH, 360)
    rect(g, '#22343b', 330, 40, 280, 130)
    rain(g, frame, 330, 40, 280, 130, 50)
    for (const x of [330, 470, 606]) rect(g, INK, x, 40, 6, 130)
    lampGlow(g, story, frame, 560, 60, 14)
    const ring = story.last('bell', frame)
    const swing = ring && frame - ring.frame < 10 ? Math.sin((frame - ring.frame) * 1.6) * 7 : 0
    disc(g, '#a8853e', 280 + swing, 90, 20)
    rect(g, '#3a2a1e', 0, 290, WIDTH, 70)
    for (let i = 0; i < 9; i++) leverAt(g, story, frame, i, 300 + i * 30, 296, 110)
    const { phase, count } = stepPhase('step boards', frame, shown)
    const { leaving } = shown.shot
    const x = leaving ? 260 - (count + phase) * 34 : 20 + (count + phase) * 26
    figure(g, x, 306, 190, phase, count >= 9 ? 1 : 0)
  },
  levers(g, frame, shown) {
    const { story } = shown
    rect(g, '#1d1712', 0, 0, WIDTH, 360)
    rect(g, '#4a3a2c', 0, 300, WIDTH, 60)
    for (let i = 4; i < 9; i++) leverAt(g, story, frame, i, 90 + (i - 4) * 110, 312, 230)
    const ring = story.last('bell', frame, 'one')
    const swing = ring && frame - ring.frame < 12 ? Math.sin((frame - ring.frame) * 1.6) * 9 : 0
    disc(g, '#a8853e', 560 + swing, 60, 34)
    line(g, '#6b5528', 6, 560 - swing, 94, 560 - swing * 2, 116)
  },
  stove(g, frame, shown) {
    const { story } = shown
    rect(g, '#1b1512', 0, 0, WIDTH, 360)
    rect(g, '#0d0d0d', 180, 220, 280, 140)
    disc(g, '#d8612a', 320, 300, 34)
    const lid = story.last('lid', frame)
    const hop =
      lid && frame - lid.frame >= 0
        ? Math.max(0, 5 - Math.abs(((frame - lid.frame) % 9) - 5)) * (frame - lid.frame < 9 ? 1 : 0)
        : 0
    const pour = story.last('pour', frame + 12)
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
  desk(g, frame, shown) {
    const { story } = shown
    rect(g, '#241b14', 0, 0, WIDTH, 360)
    rect(g, '#4a3424', 0, 240, WIDTH, 120)
    lampGlow(g, story, frame, 90, 90, 18)
    const shut = story.last('register', frame + 8)
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
    const drop = story.last('pen drops', frame + 7)
    const pen = story.last('pen', frame)
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
  line(g, frame, shown) {
    const { story } = shown
    rect(g, NIGHT, 0, 0, WIDTH, 260)
    rect(g, '#20262a', 0, 260, WIDTH, 100)
    line(g, '#56636a', 4, 0, 300, WIDTH, 300)
    const first = story.events.find((event) => event.what === 'train')?.frame ?? 0
    const last = story.events.findLast((event) => event.what === 'train')?.frame ?? 0
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
  waiting(g, frame, shown) {
    const { story } = shown
    rect(g, '#2a2f2c', 0, 0, WIDTH, 360)
    rect(g, '#3b3a30', 0, 280, WIDTH, 80)
    disc(g, '#ded6bf', 320, 90, 46)
    const tick = story.last('clock', frame)
    const hand = tick
      ? story.events.filter((event) => event.what === 'clock' && event.frame <= frame).length
      : 0
    line(g, INK, 4, 320, 90, 320 + 36 * Math.sin(hand * 0.5), 90 - 36 * Math.cos(hand * 0.5))
    rect(g, '#4b3523', 110, 250, 200, 16)
    rect(g, '#15110d', 500, 130, 46, 90)
    const ring = story.last('telephone', frame)
    const shake = ring && frame - ring.frame < 30 ? ((frame % 2) * 2 - 1) * 3 : 0
    disc(g, '#a8853e', 512 + shake, 148, 9)
    disc(g, '#a8853e', 534 + shake, 148, 9)
    const door = story.last('door', frame + 16)
    const open =
      door && door.frame > story.facts.leader + shown.shot.from ? arrival(frame, door.frame, 16) : 0
    rect(g, '#0c1012', 20, 130, 70, 150)
    rect(g, '#5a4330', 20, 130, 70 * (1 - 0.7 * (1 - open)), 150)
  },
  platform(g, frame, shown) {
    const { story } = shown
    rect(g, '#3b4a52', 0, 0, WIDTH, 210)
    rect(g, '#6d6a63', 0, 150, WIDTH, 60)
    rect(g, '#20262a', 0, 210, WIDTH, 90)
    rect(g, '#4b4a45', 0, 300, WIDTH, 60)
    rect(g, '#c9c3b2', 0, 300, WIDTH, 4)
    rect(g, '#2b211a', 0, 40, WIDTH, 22)
    for (const x of [60, 250, 440, 630]) rect(g, '#2b211a', x, 62, 9, 238)
    for (const x of [155, 345]) lampGlow(g, story, frame, x, 86, 9)
    rect(g, '#5a4330', 480, 96, 130, 44)
    rect(g, '#e5dcc3', 486, 102, 118, 32)
    rect(g, '#0d1214', 560, 170, 56, 130)
    const door = story.last('door', frame + 10)
    const shut = door ? arrival(frame, door.frame, 10) : 0
    rect(g, '#4a3626', 560, 170, 56 * (0.25 + 0.75 * shut), 130)
    const flash = story.last('thunder', frame + 3)
    if (flash && frame - flash.frame < 4) rect(g, '#9fb4bb', 0, 62, WIDTH, 88)
    const { phase, count, all } = stepPhase('step paving', frame, shown)
    const inside = !shown.shot.leaving && door !== null && frame > door.frame
    const far = (count + phase) * (shown.shot.leaving ? 40 : 31)
    if (all > 0 && !inside) figure(g, shown.shot.leaving ? 520 - far : 40 + far, 306, 150, phase)
  },
}

function leverAt(
  g: Ctx,
  story: Story,
  frame: number,
  index: number,
  x: number,
  base: number,
  length: number,
): void {
  const names: Record<number, string> = { 3: 'four', 6: 'seven', 8: 'nine' }
  const name = names[index]
  const thrown = name ? story.last('lever', frame + 10, name) : null
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

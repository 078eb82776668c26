import { kernels, type Address } from '../../kernels/kernels.js'
import type { Settings } from '../../reel/inserts.js'
import { gainFromDb } from '../../signal/levels.js'
import { SAMPLE_RATE } from '../../time/units.js'
import { sectionOf, type Section } from '../biquad.js'
import type { Bus, Processor } from '../bus.js'
import { ROOM_SPECS } from '../rooms.js'
import { airSections } from './air.js'
import { DeviceNoise, NOISE_TAIL } from './DeviceNoise.js'
import { PlaceRoom } from './PlaceRoom.js'
import { PLACE_SPECS, type PlaceSpec } from './places.js'
import { bend, bendSlope } from './saturation.js'
import { SectionRow } from './SectionRow.js'
import { copyIn, copyOut, workspace } from './workspace.js'

/** Sections that a place can have in a row before and behind what is bent. */
const MOST_SECTIONS = 16
/** Hz at which moving air swells. */
const DRIFTS = [0.23, 0.61, 1.07] as const

const settingsAtFirst: Settings<'place'> = {
  ...{ place: 'telephone', amount: 0, size: 1, distance: 0, broken: 0.5 },
}

/** What filters one channel, before and behind what is bent. */
interface Rows {
  readonly before: SectionRow
  readonly after: SectionRow
}

/**
 * Puts a sound into a place or through a device. The amount slides what the place does, from nothing at all: at 0 every sample
 * stays as it is, to the bit.
 */
export class Place implements Processor<Settings<'place'>> {
  readonly latency = 0
  private settings = settingsAtFirst
  private spec: PlaceSpec = PLACE_SPECS.telephone
  /** Of the mono sound, of left and of right. */
  private readonly rows = [0, 1, 2].map(
    (): Rows => ({ before: new SectionRow(MOST_SECTIONS), after: new SectionRow(MOST_SECTIONS) }),
  )
  private readonly noise = new DeviceNoise()
  private room: PlaceRoom | null = null
  private wet = 0
  private dry = 1
  private drive = 1
  private bias = 0
  private hiss = 0
  private drift = 0

  set(settings: Settings<'place'>): void {
    const { place, amount, size, distance, broken } = settings
    const other = place !== this.settings.place
    const spec = PLACE_SPECS[place]
    if (spec.room === null) this.room = null
    else if (other || size !== this.settings.size || !this.room) this.room = new PlaceRoom(spec.room, size)
    this.settings = settings
    this.spec = spec
    const slid = (open: number, at: number): number => open * (at / open) ** amount
    const low = passSections('highPass', slid(20, spec.low[0]), spec.low[1])
    const high = passSections('lowPass', slid(22_000, spec.high[0]), spec.high[1])
    const bells = spec.bells.map(([hz, db, q]) => sectionOf('bell', hz, db * amount, q))
    const air = airSections(distance * amount)
    // What is bent has lost what the device does not let in; what bending adds above is lost behind it. Four sections cost what one does.
    const first = [...low, ...bells]
    const ahead = Math.min(high.length - 1, (4 - (first.length % 4)) % 4)
    const before = spec.drive > 0 ? [...first, ...high.slice(0, ahead)] : []
    const after = spec.drive > 0 ? [...high.slice(ahead), ...air] : [...first, ...high, ...air]
    for (const rows of this.rows) {
      rows.before.set(before)
      rows.after.set(after)
    }
    this.drive = gainFromDb(spec.drive * amount * 2 * broken)
    this.bias = spec.lopsided * amount
    this.hiss = spec.noise === null ? 0 : gainFromDb(spec.noise + 24 * (broken - 0.5)) * amount
    this.drift = spec.drift * amount
    this.dry = spec.room === null ? 1 : gainFromDb(spec.dry * amount)
    this.wet = gainFromDb(spec.wet) * amount
    if (other) this.reset()
  }

  tail(): number {
    const { spec, settings } = this
    if (settings.amount <= 0) return 0
    const decay = spec.room === null ? 0 : Math.max(...ROOM_SPECS[spec.room].decay) * settings.size
    return NOISE_TAIL + 2048 + Math.ceil(decay * SAMPLE_RATE)
  }

  reset(): void {
    for (const { before, after } of this.rows) {
      before.reset()
      after.reset()
    }
    this.room?.reset()
    this.noise.reset()
  }

  process(bus: Bus, count: number, at: number): void {
    const { spec, settings, rows } = this
    if (settings.amount <= 0) return
    if (spec.mono) bus.sum(count)
    const work = workspace()
    const sides = [work.mono, work.left, work.right].slice(bus.hasMono ? 0 : 1, bus.hasStereo ? 3 : 1)
    copyIn(bus)
    const rowsOf = (side: Address): Rows => rows[[work.mono, work.left, work.right].indexOf(side)] as Rows
    for (const side of sides) rowsOf(side).before.run(side, count)
    if (spec.drive > 0) for (const side of sides) this.saturate(side, count)
    const { crackle: crackles, keyed } = spec
    if (this.hiss > 0 && this.noise.write(sides, work.hiss, count, at, { level: this.hiss, crackles, keyed }))
      for (const side of sides) kernels().add(side, work.hiss, count, 1)
    for (const side of sides) rowsOf(side).after.run(side, count)
    if (this.drift > 0) for (const side of sides) this.swell(side, count, at)
    if (this.room) {
      this.room.process(bus.hasMono, bus.hasStereo, count, this.dry, this.wet)
      bus.hasStereo = true
    }
    copyOut(bus)
  }

  private saturate(x: Address, count: number): void {
    const { drive, bias } = this
    const { amount } = this.settings
    const level = amount / (drive * bendSlope(bias))
    kernels().saturate(x, count, drive, bias, bend(bias), level, 1 - amount)
  }

  private swell(x: Address, count: number, at: number): void {
    for (let i = 0; i < count;) {
      const into = (at + i) & (DRIFT_STEP - 1)
      const length = Math.min(DRIFT_STEP - into, count - i)
      const [a, b] = [this.swollen(at + i - into), this.swollen(at + i - into + DRIFT_STEP)]
      const step = (b - a) / DRIFT_STEP
      kernels().ramp(x + 4 * i, length, a + step * into, step)
      i += length
    }
  }

  private swollen(sample: number): number {
    return gainFromDb(this.drift * driftAt(sample))
  }
}

/** Samples from one value of the drift to the next; between them it runs straight. */
const DRIFT_STEP = 256

/** -1 to 1, always the same at a moment of the reel. */
const driftAt = (sample: number): number =>
  DRIFTS.reduce(
    (sum, hz, index) => sum + Math.sin((2 * Math.PI * hz * sample) / SAMPLE_RATE + 1.7 * index),
    0,
  ) / DRIFTS.length

/** The sections, with the quality factors of a maximally flat pass of an even order: 1 / (2 cos of the angles of its poles). */
function passSections(shape: 'highPass' | 'lowPass', hz: number, sections: number): Section[] {
  return Array.from({ length: sections }, (_, index) =>
    sectionOf(shape, hz, 0, 1 / (2 * Math.cos((Math.PI * (2 * index + 1)) / (4 * sections)))),
  )
}

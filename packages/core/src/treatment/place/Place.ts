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
import { Waver, type Wavering } from './Waver.js'
import { workspace } from './workspace.js'

/** Sections that a place can have in a row before and behind what is bent. */
const MOST_SECTIONS = 16
/** Hz at which moving air swells. */
const DRIFTS = [0.23, 0.61, 1.07] as const

const settingsAtFirst: Settings<'place'> = {
  ...{ place: 'telephone', amount: 0, size: 1, distance: 0, broken: 0.5 },
}

/** What works on one channel of a bus: its pitch wavers, then it is filtered before and behind what is bent. */
interface Channel {
  waver: Waver | null
  readonly before: SectionRow
  readonly after: SectionRow
  /** Where its samples lie. */
  x: Address
}

/**
 * Puts a sound into a place or through a device. The amount slides what the place does, from nothing at all: at 0 every sample
 * stays as it is, to the bit.
 */
export class Place implements Processor<Settings<'place'>> {
  readonly latency = 0
  private settings = settingsAtFirst
  private spec: PlaceSpec = PLACE_SPECS.telephone
  private readonly mono = newChannel()
  private readonly left = newChannel()
  private readonly right = newChannel()
  private readonly channels = [this.mono, this.left, this.right]
  /** Those of them that sound. */
  private readonly sounding: Channel[] = []
  private readonly noise = new DeviceNoise()
  private room: PlaceRoom | null = null
  private wet = 0
  private dry = 1
  private drive = 1
  private bias = 0
  private hiss = 0
  private drift = 0
  private wavering: Wavering = { hz: 1, part: 0 }

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
    for (const channel of this.channels) {
      channel.waver = spec.waver[1] > 0 ? (channel.waver ?? new Waver()) : null
      channel.before.set(before)
      channel.after.set(after)
    }
    this.drive = gainFromDb(spec.drive * amount * 2 * broken)
    this.bias = spec.lopsided * amount
    this.hiss = spec.noise === null ? 0 : gainFromDb(spec.noise + 24 * (broken - 0.5)) * amount
    this.drift = spec.drift * amount
    const [hz, part] = spec.waver
    this.wavering = { hz, part: part * amount * (spec.drive > 0 ? 2 * broken : 1) }
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
    for (const { waver, before, after } of this.channels)
      for (const part of [waver, before, after]) part?.reset()
    this.room?.reset()
    this.noise.reset()
  }

  process(bus: Bus, count: number, at: number): void {
    const { spec, settings, sounding } = this
    if (settings.amount <= 0) return
    if (spec.mono) bus.sum(count)
    this.listen(bus)
    for (const { x, waver, before } of sounding) {
      waver?.run(x, count, at, this.wavering)
      before.run(x, count)
      if (spec.drive > 0) this.saturate(x, count)
    }
    const { hiss } = workspace()
    if (this.hiss > 0 && this.noise.write(sounding, hiss, count, at, this.hiss, spec))
      for (const { x } of sounding) kernels().add(x, hiss, count, 1)
    for (const { x, after } of sounding) {
      after.run(x, count)
      if (this.drift > 0) this.swell(x, count, at)
    }
    this.room?.process(bus, count, this.dry, this.wet)
  }

  /** Finds what sounds of a bus. */
  private listen(bus: Bus): void {
    const { mono, left, right, sounding } = this
    sounding.length = 0
    mono.x = bus.inMono.at
    left.x = bus.inLeft.at
    right.x = bus.inRight.at
    if (bus.hasMono) sounding.push(mono)
    if (bus.hasStereo) sounding.push(left, right)
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

const newChannel = (): Channel => ({
  ...{ waver: null, before: new SectionRow(MOST_SECTIONS), after: new SectionRow(MOST_SECTIONS), x: 0 },
})

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

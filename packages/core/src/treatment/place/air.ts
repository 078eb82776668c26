import { SAMPLE_RATE } from '../../time/units.js'
import { sectionOf, type Section } from '../biquad.js'

/** The air that sound goes through. */
export interface Air {
  /** Degrees Celsius. */
  readonly celsius: number
  /** Relative humidity, per cent. */
  readonly humidity: number
  /** Kilopascals; 101.325 at the sea. */
  readonly pressure: number
}

/** A mild day. */
export const MILD_AIR: Air = { celsius: 15, humidity: 50, pressure: 101.325 }

const KELVIN = 273.15
/** Reference temperature and triple point of water, kelvins; reference pressure, kilopascals (ISO 9613-1, 6.2). */
const REFERENCE = 293.15
const TRIPLE = 273.16
const SEA = 101.325

/** What air takes of a tone, dB a metre: ISO 9613-1, formulae 3 to 5 and B.2, B.3 (written from memory, checked against the standard's table). @param hz - 50 to 10,000 in the standard */
export function airAbsorption(hz: number, { celsius, humidity, pressure }: Air = MILD_AIR): number {
  const kelvins = celsius + KELVIN
  const warm = kelvins / REFERENCE
  const dense = pressure / SEA
  const saturation = 10 ** (-6.8346 * (TRIPLE / kelvins) ** 1.261 + 4.6151)
  const water = (humidity * saturation) / dense
  const oxygen = dense * (24 + (4.04e4 * water * (0.02 + water)) / (0.391 + water))
  const nitrogen = (dense / Math.sqrt(warm)) * (9 + 280 * water * Math.exp(-4.17 * (warm ** (-1 / 3) - 1)))
  const relaxing =
    (0.01275 * Math.exp(-2239.1 / kelvins)) / (oxygen + hz ** 2 / oxygen) +
    (0.1068 * Math.exp(-3352 / kelvins)) / (nitrogen + hz ** 2 / nitrogen)
  return 8.686 * hz ** 2 * ((1.84e-11 * Math.sqrt(warm)) / dense + warm ** -2.5 * relaxing)
}

/** Sections that draw air, two falls of first order each, and the decibels at the top of hearing for which one of them will do. */
const SECTIONS = 3
const FEW = 6
/** Decibels that nobody hears. */
const NOTHING = 1
/** What they are set by: where air takes so many decibels, or at this frequency where it takes less. */
const SET_AT = 14
const HIGHEST = 10_000

/** The frequency at which so many metres of air take {@link SET_AT} decibels, at most {@link HIGHEST}. */
function cornerOf(metres: number, air: Air): number {
  let [low, high] = [20, HIGHEST]
  if (metres * airAbsorption(high, air) <= SET_AT) return high
  for (let round = 0; round < 24; round++) {
    const middle = Math.sqrt(low * high)
    if (metres * airAbsorption(middle, air) > SET_AT) high = middle
    else low = middle
  }
  return low
}

/**
 * Sections that take of a sound what so many metres of air take: decibels that grow with the square of the frequency, as those of
 * many slow falls in a row do; none where it takes less than a decibel. Exact where air takes {@link SET_AT} decibels. @param metres - 0 to 2000
 */
export function airSections(metres: number, air: Air = MILD_AIR): Section[] {
  const most = metres * airAbsorption(HIGHEST, air)
  if (most < NOTHING) return []
  const sections = most < FEW ? 1 : SECTIONS
  const at = cornerOf(metres, air)
  const each = (metres * airAbsorption(at, air)) / (2 * sections)
  const turn = (hz: number): number => Math.tan((Math.PI * hz) / SAMPLE_RATE)
  const corner = (SAMPLE_RATE / Math.PI) * Math.atan(turn(at) / Math.sqrt(10 ** (each / 10) - 1))
  return Array.from({ length: sections }, () => sectionOf('lowPass', corner, 0, 0.5))
}

/** Width, depth and height of a box in metres. */
export type BoxSize = readonly [width: number, depth: number, height: number]

/** 24 ln 10 over the speed of sound, seconds a metre, as textbooks round it. */
const CONSTANT = 0.161

const volumeOf = ([w, d, h]: BoxSize): number => w * d * h
const surfaceOf = ([w, d, h]: BoxSize): number => 2 * (w * d + w * h + d * h)

/** Seconds in which sound in a box falls by 60 dB, by Sabine: good where little is swallowed. @param swallowed - Part of the power that its walls swallow, 0 to 1 */
export const sabineDecay = (size: BoxSize, swallowed: number): number =>
  (CONSTANT * volumeOf(size)) / (surfaceOf(size) * swallowed)

/** The same by Eyring, which holds also where much is swallowed: with all of it nothing is left. */
export const eyringDecay = (size: BoxSize, swallowed: number): number =>
  (CONSTANT * volumeOf(size)) / (-surfaceOf(size) * Math.log(1 - swallowed))

/** What walls swallow of a box that falls silent in so many seconds, by Sabine. */
export const sabineAbsorption = (size: BoxSize, seconds: number): number =>
  (CONSTANT * volumeOf(size)) / (surfaceOf(size) * seconds)

/** Decoded sound at 48 kHz: one array (mono) or two (left, right), with the first sample's place in the recording. */
export interface SoundBlock {
  readonly from: number
  readonly channels: readonly [Float32Array] | readonly [Float32Array, Float32Array]
}

/**
 * Where the mixer gets decoded samples from. Must answer at once.
 *
 * @param at - Sample of the recording that is wanted next.
 * @returns A block that holds `at` (it may end early; the mixer asks again), or null when it is not there:
 *   the mixer then leaves silence up to the next multiple of its block and counts a miss.
 */
export type SoundPort = (mediaId: string, at: number) => SoundBlock | null

/** Longest stretch mixed at once, in samples; bounds the size of scratch memory. */
export const MIX_BLOCK = 1024

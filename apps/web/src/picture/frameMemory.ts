/** Size in pixels in which every picture is prepared. */
export const WIDTH = 640
export const HEIGHT = 360
/** Frames that can be under way at once. */
const PLACES = 8
const BYTES = WIDTH * HEIGHT * 4

/** One frame to decode, and the place in the memory that its pixels go to (none where no memory can be shared). */
export interface DecodeOrder {
  readonly frame: number
  /** A whole key frame of the H.264 stream. */
  readonly data: Uint8Array<ArrayBuffer>
  readonly place: number | null
}

/** What the worker is told: first the memory, then one order after the other. */
export type ToDecoder = { readonly shared: SharedArrayBuffer | null } | DecodeOrder

/** What the worker tells: a frame is in its place, or comes with the message, or why none will come. */
export type FromDecoder =
  { readonly frame: number; readonly pixels: ImageData | null } | { readonly problem: string }

/**
 * Memory that the worker writes decoded frames into and the page reads them from, at any moment.
 * After a key is pressed a browser holds messages back until it has painted once more; this does not wait for that.
 */
export class FrameMemory {
  /** Frame in each place plus one; 0: nothing (yet). */
  private readonly frames: Int32Array
  private readonly pixels: Uint8ClampedArray

  constructor(readonly shared = new SharedArrayBuffer(PLACES * (BYTES + Int32Array.BYTES_PER_ELEMENT))) {
    this.frames = new Int32Array(shared, 0, PLACES)
    this.pixels = new Uint8ClampedArray(shared, this.frames.byteLength)
  }

  /** Numbers of all places. */
  get places(): number[] {
    return [...this.frames.keys()]
  }

  /** Puts the pixels of a frame into a place. */
  put(place: number, frame: number, { data }: ImageData): void {
    this.pixels.set(data, place * BYTES)
    Atomics.store(this.frames, place, frame + 1)
  }

  /** Takes a frame out of a place, which is free then; null when it is not there yet. */
  take(place: number, frame: number): ImageData | null {
    if (Atomics.load(this.frames, place) !== frame + 1) return null
    // A copy: what is shared can't be drawn.
    const pixels = new Uint8ClampedArray(this.pixels.subarray(place * BYTES, (place + 1) * BYTES))
    Atomics.store(this.frames, place, 0)
    return new ImageData(pixels, WIDTH, HEIGHT)
  }
}

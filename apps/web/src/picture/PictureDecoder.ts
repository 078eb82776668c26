import { FrameDecoder } from './FrameDecoder.js'

const PAGE = 48
/** Pages that are held, about 50 MB: all of a short reel, some three and a half minutes about the gate of a long one. */
const PAGES_KEPT = 110
const AHEAD = 4
/** Milliseconds for which a frame is looked at before those about it are loaded. */
const STAY_MS = 30
/** Milliseconds between one page that is loaded ahead and the next: whoever works comes first. */
const SPREAD_MS = 60
/** After so long a frame that could not be had is asked for again. */
const AGAIN_MS = 700

/**
 * Shows single frames of a picture's proxy on a canvas: frame n is the n-th entry of the index, decoded by itself.
 * Stopped, only the newest wish is decoded; rolling, the next frames are decoded ahead and drawn when their time comes.
 */
export class PictureDecoder {
  /** Frame on the canvas, or null. */
  shown: number | null = null
  /** Told after each drawing. */
  onDrawn: ((frame: number) => void) | null = null
  /** Told when a frame is wished for that is not made yet: nothing is on the canvas then. */
  onMissing: ((frame: number) => void) | null = null
  /** The picture still grows: what lies beyond its index comes later. */
  grows = false
  private index: Float64Array | null = null
  private decoder: FrameDecoder | null = null
  private readonly pages = new Map<number, Promise<ArrayBuffer>>()
  private readonly ready = new Map<number, ImageData>()
  private readonly asked = new Set<number>()
  private wish: number | null = null
  /** What is likely to be wished for next, and is kept until then. */
  private expected: number | null = null
  private closed = false
  private again: ReturnType<typeof setTimeout> | undefined
  private staying: ReturnType<typeof setTimeout> | undefined
  private rolls = false

  constructor(
    private readonly url: string,
    private readonly canvas: HTMLCanvasElement,
    private readonly onError: (message: string) => void,
  ) {}

  /** Loads the index. @throws Error when the browser can't decode or the proxy is not there */
  async open(): Promise<void> {
    if (typeof VideoDecoder === 'undefined')
      throw new Error(
        'This browser can’t show single frames (it has no VideoDecoder, or the page is not from this computer or https).',
      )
    // It is there by the time that the index is.
    this.decoderNow()
    await this.load()
  }

  /** Loads the index again after the picture has grown, and shows what is wished for if it is there now. */
  async grow(): Promise<void> {
    const before = this.length
    await this.load()
    // The last page was not full; a picture that was begun anew has other pages.
    if (this.length < before || !this.grows) this.pages.clear()
    else this.pages.delete(Math.floor(before / PAGE))
    if (this.wish !== null && this.shown !== this.wish && !this.closed) this.show(this.wish)
  }

  private async load(): Promise<void> {
    const response = await fetch(`${this.url}/index`)
    if (!response.ok) throw new Error('The picture is not ready.')
    this.index = new Float64Array(await response.arrayBuffer())
  }

  /** Frames of the picture. */
  get length(): number {
    return Math.max(0, (this.index?.length ?? 1) - 1)
  }

  /** Shows one frame as soon as it is decoded; an older wish that is still waiting is dropped. */
  show(frame: number): void {
    const target = this.clamp(frame)
    if (target === null) return this.miss(frame)
    this.wish = target
    this.rolls = false
    clearTimeout(this.staying)
    if (this.drawReady(target)) return
    // One wish at a time: the newest is taken when the one under way is done.
    if (this.asked.size === 0) void this.ask(target)
  }

  /** Decodes a frame that is likely to be wished for next, where nothing else is under way. */
  expect(frame: number): void {
    const target = this.clamp(frame)
    if (target === null || this.rolls) return
    this.expected = target
    if (this.asked.size > 0) return
    if (target !== this.shown && !this.ready.has(target)) void this.ask(target)
  }

  /** Shows a frame while rolling, and decodes the following ones. */
  roll(frame: number): void {
    const target = this.clamp(frame)
    if (target === null) return this.miss(frame)
    this.wish = target
    this.rolls = true
    this.drawReady(target)
    for (const at of this.ready.keys()) if (at < target - 1 || at > target + AHEAD * 2) this.ready.delete(at)
    for (let next = target; next <= target + AHEAD && next < this.length; next++) {
      if (!this.ready.has(next) && !this.asked.has(next) && next !== this.shown) void this.ask(next)
    }
  }

  /** Frees everything. */
  close(): void {
    this.closed = true
    clearTimeout(this.again)
    clearTimeout(this.staying)
    this.ready.clear()
    this.decoder?.close()
  }

  private clamp(frame: number): number | null {
    if (this.length === 0 || (this.grows && frame >= this.length)) return null
    return Math.max(0, Math.min(this.length - 1, frame))
  }

  /** Never another frame in the place of one that is not there. */
  private miss(frame: number): void {
    this.wish = frame
    this.shown = null
    this.canvas.getContext('2d')?.clearRect(0, 0, this.canvas.width, this.canvas.height)
    this.onMissing?.(frame)
  }

  private drawReady(target: number): boolean {
    if (this.shown === target) return true
    this.decoder?.collect()
    if (this.shown === target) return true
    const pixels = this.ready.get(target)
    if (!pixels) return false
    this.canvas.getContext('2d')?.putImageData(pixels, 0, 0)
    this.shown = target
    this.onDrawn?.(target)
    // The wished frame first, its neighbours once it has been seen for a moment.
    clearTimeout(this.staying)
    this.staying = setTimeout(() => this.loadAbout(target), this.rolls ? 0 : STAY_MS)
    return true
  }

  private loadAbout(frame: number): void {
    const page = Math.floor(frame / PAGE)
    void this.page(page).catch(() => undefined)
    if (frame % PAGE > PAGE / 2) void this.page(page + 1).catch(() => undefined)
    this.spread(page)
  }

  /** While nothing moves, loads page after page about a place, so that a jump needs nothing of the server. */
  private spread(about: number): void {
    const pages = Math.ceil(this.length / PAGE)
    clearTimeout(this.staying)
    if (this.closed || this.rolls || this.grows) return
    for (let away = 1; away < PAGES_KEPT; away++)
      for (const page of [about + away, about - away]) {
        if (page < 0 || page >= pages || this.pages.has(page)) continue
        if (this.pages.size >= Math.min(pages, PAGES_KEPT) && away > PAGES_KEPT / 2) return
        this.page(page).then(
          () => (this.staying = setTimeout(() => this.spread(about), SPREAD_MS)),
          () => undefined,
        )
        return
      }
  }

  /** Lets the page go that lies farthest from another one. */
  private forgetFarFrom(page: number): void {
    const far = (one: number): number => Math.abs(one - page)
    this.pages.delete([...this.pages.keys()].reduce((most, one) => (far(one) > far(most) ? one : most), page))
  }

  private async ask(frame: number): Promise<void> {
    this.asked.add(frame)
    try {
      const data = await this.bytesOf(frame)
      if (this.closed) return
      this.decoderNow().decode(frame, data)
    } catch (error) {
      this.asked.delete(frame)
      this.fail(error instanceof Error ? error.message : String(error))
    }
  }

  /** Says what went wrong; the frame that is wished for is asked for again, since a server or a decoder comes back. */
  private fail(message: string): void {
    if (this.closed) return
    this.onError(message)
    clearTimeout(this.again)
    this.again = setTimeout(() => {
      if (this.wish !== null && this.asked.size === 0) this.show(this.wish)
    }, AGAIN_MS)
  }

  private decoderNow(): FrameDecoder {
    this.decoder ??= new FrameDecoder(
      (frame, pixels) => this.take(frame, pixels),
      (message) => {
        const waits = this.asked.size > 0
        this.asked.clear()
        this.decoder?.close()
        this.decoder = null
        // Browsers take back a decoder that has rested for long: that is no trouble, the next frame has a new one.
        if (!waits) return
        // What it could not read may have come damaged.
        this.pages.clear()
        this.fail(`The picture can’t be decoded: ${message}`)
      },
    )
    return this.decoder
  }

  private take(frame: number, pixels: ImageData): void {
    this.asked.delete(frame)
    if (this.closed) return
    this.ready.set(frame, pixels)
    if (this.wish === null) return
    if (frame === this.wish) this.drawReady(frame)
    else if (this.asked.size === 0 && this.shown !== this.wish) this.show(this.wish)
    if (this.ready.size > 3 * AHEAD) this.trim(this.wish)
  }

  private trim(around: number): void {
    for (const at of this.ready.keys())
      if (Math.abs(at - around) > AHEAD && at !== this.expected) this.ready.delete(at)
  }

  private async bytesOf(frame: number): Promise<Uint8Array> {
    const index = this.index as Float64Array
    const page = Math.floor(frame / PAGE)
    if (!this.pages.has(page)) return new Uint8Array(await this.fetchFrames(frame, frame + 1))
    const bytes = await this.page(page)
    const start = (index[frame] as number) - (index[page * PAGE] as number)
    return new Uint8Array(bytes, start, (index[frame + 1] as number) - (index[frame] as number))
  }

  private page(page: number): Promise<ArrayBuffer> {
    const first = page * PAGE
    if (first >= this.length) return Promise.resolve(new ArrayBuffer(0))
    const known = this.pages.get(page)
    if (known) return known
    const loading = this.fetchFrames(first, Math.min(this.length, first + PAGE))
    loading.catch(() => this.pages.delete(page))
    this.pages.set(page, loading)
    if (this.pages.size > PAGES_KEPT) this.forgetFarFrom(page)
    return loading
  }

  private async fetchFrames(from: number, to: number): Promise<ArrayBuffer> {
    const index = this.index as Float64Array
    const response = await fetch(`${this.url}/frames`, {
      headers: { range: `bytes=${index[from] as number}-${(index[to] as number) - 1}` },
    })
    if (response.status !== 206) throw new Error(`The server did not send the picture (${response.status}).`)
    return response.arrayBuffer()
  }
}

import { FrameMemory, type DecodeOrder, type FromDecoder, type ToDecoder } from './frameMemory.js'

/**
 * Decodes single frames in a worker. They are fetched from it at each refresh, before anything is drawn, and whenever
 * {@link collect} is called; where the browser shares no memory, as soon as it delivers the worker's message.
 */
export class FrameDecoder {
  private readonly worker = new Worker(new URL('./decode.worker.ts', import.meta.url), { type: 'module' })
  private readonly memory = globalThis.crossOriginIsolated ? new FrameMemory() : null
  private readonly free = this.memory?.places ?? []
  private readonly underWay = new Map<number, number>()
  private readonly waiting: DecodeOrder[] = []
  private looking = 0

  /**
   * @param onFrame - Given each decoded frame
   * @param onProblem - Told why no frame will come any more
   */
  constructor(
    private readonly onFrame: (frame: number, pixels: ImageData) => void,
    onProblem: (message: string) => void,
  ) {
    this.worker.onmessage = ({ data }: MessageEvent<FromDecoder>) => {
      if ('problem' in data) onProblem(data.problem)
      else if (data.pixels) this.onFrame(data.frame, data.pixels)
      else this.collect()
    }
    this.worker.onerror = ({ message }) => onProblem(message || 'its program could not be loaded')
    this.tell({ shared: this.memory?.shared ?? null })
  }

  /** Has a frame decoded. @param data - A whole key frame of the H.264 stream */
  decode(frame: number, data: Uint8Array): void {
    // A copy of its own goes over, since the page of frames that it is part of stays.
    this.waiting.push({ frame, data: data.slice(), place: null })
    this.send()
  }

  /** Hands over what is decoded by now. */
  collect(): void {
    for (const [place, frame] of this.underWay) {
      const pixels = this.memory?.take(place, frame)
      if (!pixels) continue
      this.underWay.delete(place)
      this.free.push(place)
      this.onFrame(frame, pixels)
    }
    this.send()
  }

  /** Ends the worker; nothing comes any more. */
  close(): void {
    cancelAnimationFrame(this.looking)
    this.worker.terminate()
    this.underWay.clear()
    this.waiting.length = 0
  }

  private send(): void {
    while (this.waiting.length > 0) {
      const place = this.memory ? this.free.pop() : null
      const order = place === undefined ? undefined : this.waiting.shift()
      if (place === undefined || !order) return
      if (place !== null) this.lookFor(order.frame, place)
      this.tell({ ...order, place }, [order.data.buffer])
    }
  }

  /** Looks at a place at each refresh until its frame is there. */
  private lookFor(frame: number, place: number): void {
    this.underWay.set(place, frame)
    if (this.looking !== 0) return
    const look = (): void => {
      this.collect()
      this.looking = this.underWay.size > 0 ? requestAnimationFrame(look) : 0
    }
    this.looking = requestAnimationFrame(look)
  }

  private tell(order: ToDecoder, transfer: Transferable[] = []): void {
    this.worker.postMessage(order, transfer)
  }
}

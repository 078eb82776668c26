/** What a picture in a window of its own has to show. */
export interface ShownFrame {
  readonly pictureId: string
  readonly frame: number
  readonly rolling: boolean
  /** Frames that are made, and whether those are all. */
  readonly made: number
  readonly whole: boolean
}

const channel = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel('yodel-picture')
let last: ShownFrame | null = null

/** Tells the picture's own window, if there is one, what stands at the gate. */
export function showElsewhere(shown: ShownFrame): void {
  const keys = Object.keys(shown) as (keyof ShownFrame)[]
  if (keys.every((key) => last?.[key] === shown[key])) return
  last = shown
  channel?.postMessage(shown)
}

// A window that has just opened asks what to show.
channel?.addEventListener('message', ({ data }: MessageEvent<unknown>) => {
  if (data === 'what' && last) channel.postMessage(last)
})

/** Calls back with every frame that the Sheet's window shows; returns the way to end it. */
export function followSheet(listener: (shown: ShownFrame) => void): () => void {
  const own = new BroadcastChannel('yodel-picture')
  own.onmessage = ({ data }: MessageEvent<unknown>) => {
    if (data !== 'what') listener(data as ShownFrame)
  }
  own.postMessage('what')
  return () => own.close()
}

/** Opens the picture in a window of its own, for a second screen, or brings it to the front. */
export function openPictureWindow(): void {
  window.open('/picture', 'yodel-picture', 'popup,width=1280,height=720')?.focus()
}

import {
  FrameMemory,
  HEIGHT,
  WIDTH,
  type DecodeOrder,
  type FromDecoder,
  type ToDecoder,
} from './frameMemory.js'

// Decodes single key frames, and turns them into pixels, beside the page.

const post = (told: FromDecoder): void => self.postMessage(told)
const surface = new OffscreenCanvas(WIDTH, HEIGHT).getContext('2d', { willReadFrequently: true })
const places = new Map<number, number | null>()
let memory: FrameMemory | null = null

const decoder = new VideoDecoder({
  output: (picture) => {
    const frame = picture.timestamp
    surface?.drawImage(picture, 0, 0, WIDTH, HEIGHT)
    picture.close()
    const pixels = surface?.getImageData(0, 0, WIDTH, HEIGHT)
    const place = places.get(frame) ?? null
    places.delete(frame)
    if (!pixels) return post({ problem: 'this browser gives a worker nothing to draw on' })
    if (memory && place !== null) memory.put(place, frame, pixels)
    post({ frame, pixels: memory && place !== null ? null : pixels })
  },
  error: ({ message }) => post({ problem: message }),
})
decoder.configure({ codec: 'avc1.42001e', optimizeForLatency: true })

self.onmessage = ({ data }: MessageEvent<ToDecoder>) => {
  if ('frame' in data) return decode(data)
  memory = data.shared && new FrameMemory(data.shared)
}

function decode({ frame, data, place }: DecodeOrder): void {
  // It has said why it ended; a new one is made by whoever asks.
  if (decoder.state !== 'configured') return
  places.set(frame, place)
  decoder.decode(new EncodedVideoChunk({ type: 'key', timestamp: frame, data }))
}

import { SAMPLE_RATE, PCM_CHUNK, spectrumColumns, type Sound } from '@yodel/core'
import { useEffect, useRef, useState } from 'react'

/** More than this would load hundreds of pieces for one picture. */
const LONGEST_S = 60

/** Which frequencies sound when: low at the bottom, on a logarithmic scale; darker is louder. */
export function Spectrogram({
  sound,
  from,
  to,
  width,
  height,
}: {
  sound: Sound
  from: number
  to: number
  width: number
  height: number
}) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const [problem, setProblem] = useState('')
  const tooLong = to - from > LONGEST_S * SAMPLE_RATE
  useEffect(() => {
    if (tooLong) return setProblem('Zoom in below a minute to see the spectrum.')
    const aborter = new AbortController()
    setProblem('')
    loadMono(sound.id, from, to, aborter.signal)
      .then((mono) => canvas.current && paint(canvas.current, mono, width, height))
      .catch(() => !aborter.signal.aborted && setProblem('The sound can’t be had at present.'))
    return () => aborter.abort()
  }, [sound.id, from, to, width, height, tooLong])
  return problem ? (
    <p className="p-2 text-[12px] text-ink-2">{problem}</p>
  ) : (
    <canvas ref={canvas} width={width} height={height} className="block" aria-label="Spectrum over time" />
  )
}

async function loadMono(id: string, from: number, to: number, signal: AbortSignal): Promise<Float32Array> {
  const mono = new Float32Array(to - from)
  const first = Math.floor(from / PCM_CHUNK)
  const count = Math.floor((to - 1) / PCM_CHUNK) - first + 1
  await Promise.all(
    Array.from({ length: count }, async (_, index) => {
      const response = await fetch(`/api/media/${encodeURIComponent(id)}/pcm/${first + index}`, { signal })
      if (!response.ok) throw new Error(response.statusText)
      const channels = Number(response.headers.get('x-channels'))
      const samples = new Float32Array(await response.arrayBuffer())
      const start = (first + index) * PCM_CHUNK - from
      for (let i = 0; i < samples.length / channels; i++) {
        const at = start + i
        if (at >= 0 && at < mono.length)
          mono[at] =
            channels === 1
              ? (samples[i] as number)
              : 0.5 * ((samples[2 * i] as number) + (samples[2 * i + 1] as number))
      }
    }),
  )
  return mono
}

function paint(canvas: HTMLCanvasElement, mono: Float32Array, width: number, height: number): void {
  const context = canvas.getContext('2d')
  if (!context) return
  const ink = getComputedStyle(canvas).getPropertyValue('--ink').trim()
  const columns = spectrumColumns(mono, width, height)
  context.clearRect(0, 0, width, height)
  context.fillStyle = ink
  for (let x = 0; x < width; x++)
    for (let y = 0; y < height; y++) {
      context.globalAlpha = (columns[x * height + y] ?? 0) ** 1.5
      context.fillRect(x, height - 1 - y, 1, 1)
    }
}

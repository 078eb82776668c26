import { PEAK_STEPS, type PeakLevel } from '@yodel/core'
import { useEffect, useState } from 'react'

const cache = new Map<string, Promise<PeakLevel | null>>()

/** A browser keeps six connections to a server; outlines leave the others to what somebody waits for. */
const AT_ONCE = 3
const waiting: (() => void)[] = []
let running = 0

/** Lets only so many loads run at once; the newest wish goes first, since it is what is looked at. */
async function inTurn<T>(load: () => Promise<T>): Promise<T> {
  if (running >= AT_ONCE) await new Promise<void>((resolve) => waiting.push(resolve))
  running++
  try {
    return await load()
  } finally {
    running--
    waiting.pop()?.()
  }
}

/** Loads one resolution of a recording's outline; null when it can't be had. Kept for the life of the page. */
export function loadPeaks(mediaId: string, level: number): Promise<PeakLevel | null> {
  const key = `${mediaId}:${level}`
  const known = cache.get(key)
  if (known) return known
  const loading = inTurn(() => fetch(`/api/media/${encodeURIComponent(mediaId)}/peaks/${level}`))
    .then(async (response) =>
      response.ok
        ? { step: PEAK_STEPS[level] as number, values: new Int8Array(await response.arrayBuffer()) }
        : null,
    )
    .catch(() => null)
  void loading.then((peaks) => {
    if (!peaks) cache.delete(key)
  })
  cache.set(key, loading)
  return loading
}

/** The coarsest resolution that still has a value for each pixel. */
export function levelFor(samplesPerPixel: number): number {
  const index = PEAK_STEPS.findLastIndex((step) => step <= samplesPerPixel)
  return Math.max(0, index)
}

/** An outline for drawing at so many samples a pixel; null while it loads. */
export function usePeaks(mediaId: string | null, samplesPerPixel: number): PeakLevel | null {
  const level = levelFor(samplesPerPixel)
  const [peaks, setPeaks] = useState<PeakLevel | null>(null)
  useEffect(() => {
    let current = true
    if (mediaId === null) setPeaks(null)
    else void loadPeaks(mediaId, level).then((loaded) => current && setPeaks(loaded))
    return () => {
      current = false
    }
  }, [mediaId, level])
  return peaks
}

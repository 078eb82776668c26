import { PEAK_STEPS, type PeakLevel } from '@yodel/core'
import { useEffect, useState } from 'react'

const cache = new Map<string, Promise<PeakLevel | null>>()

/** Loads one resolution of a recording's outline; null when it can't be had. Kept for the life of the page. */
export function loadPeaks(mediaId: string, level: number): Promise<PeakLevel | null> {
  const key = `${mediaId}:${level}`
  const known = cache.get(key)
  if (known) return known
  const loading = fetch(`/api/media/${encodeURIComponent(mediaId)}/peaks/${level}`)
    .then(async (response) => (response.ok ? { step: PEAK_STEPS[level] as number, values: new Int8Array(await response.arrayBuffer()) } : null))
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

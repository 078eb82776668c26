import { rateOf } from '../../reel/document.js'
import { sampleToFrame } from '../../time/convert.js'
import type { Check, Found } from './finding.js'

/** Places at which the mix or a stem goes over the recipe's true peak, as far as they were measured. */
export const findPeaks: Check = (doc, { mix, recipe }) => {
  if (!mix || recipe.truePeak === null) return []
  const rate = rateOf(doc)
  return mix.overs.map(({ from, to, what, peak }): Found => ({
    ...{ weight: 'stops', about: [] },
    at: { from: sampleToFrame(from, rate), to: sampleToFrame(to - 1, rate) + 1 },
    text: `${what} reaches ${peak.toFixed(1)} dBTP, and ${recipe.truePeak} is asked for`,
  }))
}

/** A mix that is louder or softer than the recipe asks for. */
export const findLoudness: Check = (_, { mix, recipe }) => {
  if (mix?.loudness == null || recipe.loudness === null) return []
  const off = mix.loudness - recipe.loudness.target
  if (Math.abs(off) <= recipe.loudness.tolerance) return []
  const text = `The mix is ${Math.abs(off).toFixed(1)} LU ${off > 0 ? 'louder' : 'softer'} than ${recipe.loudness.target} LUFS`
  return [{ weight: 'mind', at: null, about: [], text }]
}

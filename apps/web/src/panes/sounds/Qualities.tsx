import type { Sound } from '@yodel/core'
import { QUALITY_WORDS } from './describe.js'

const SHOWN = QUALITY_WORDS.filter(
  ({ quality }) =>
    quality === 'weight' || quality === 'brightness' || quality === 'bite' || quality === 'noisiness',
)
const LETTERS: Readonly<Record<string, string>> = { weight: 'w', brightness: 'b', bite: 't', noisiness: 'n' }
const TALL = 16

/** Four measured qualities side by side, so small that a column of results can be compared at a glance. */
export function Qualities({ sound }: { sound: Sound }) {
  const words = sound.measured
    ? QUALITY_WORDS.map((entry) => `${entry.name} ${entry.show(sound)}`).join(' · ')
    : 'Not listened to yet'
  return (
    <svg width={34} height={TALL} className="shrink-0" role="img" aria-label={words}>
      <title>{words}</title>
      {SHOWN.map((entry, index) => {
        const tall = sound.measured ? Math.max(1, entry.part(sound) * TALL) : 1
        return (
          <g key={entry.quality}>
            <rect x={index * 9} y={0} width={6} height={TALL} fill="var(--hair)" />
            <rect x={index * 9} y={TALL - tall} width={6} height={tall} fill="var(--ink-2)" />
          </g>
        )
      })}
    </svg>
  )
}

/** The letters that stand over the columns of {@link Qualities}. */
export function QualityLegend() {
  return (
    <svg width={34} height={11} aria-hidden>
      {SHOWN.map((entry, index) => (
        <text
          key={entry.quality}
          x={index * 9 + 3}
          y={9}
          textAnchor="middle"
          fontSize={10.5}
          fill="var(--ink-3)"
        >
          {LETTERS[entry.quality]}
        </text>
      ))}
    </svg>
  )
}

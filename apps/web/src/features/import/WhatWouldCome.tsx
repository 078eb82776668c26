import {
  cueCode,
  FRAME_RATES,
  formatTimecode,
  type ImportPreview,
  type ImportProblem,
  type Result,
} from '@yodel/core'
import { useReel } from '../../session/session.js'

/** Lines that are shown at most. */
const SHOWN = 300
const TITLES = ['Line', 'Cue', 'In', 'Out', 'What is heard', 'Made by', 'Notes']

/** Every cue that an import would bring, and every line that can't be read, with the reason. */
export function WhatWouldCome({
  preview,
  problems,
}: {
  preview: Result<ImportPreview>
  problems: readonly ImportProblem[]
}) {
  return (
    <section className="flex min-h-0 flex-col" aria-label="What would come">
      {!preview.ok && (
        <p role="alert" className="border-b border-line px-4 py-3 text-gate">
          {preview.message.replace(/^Import: the sheet can’t be read \((.*)\)\.$/, 'Not yet: $1.')}
        </p>
      )}
      {problems.length > 0 && (
        <ul
          className="max-h-[35%] shrink-0 overflow-y-auto border-b border-line bg-paper-2 px-4 py-2 text-[12px]"
          aria-label="Problems"
          data-problems
        >
          {problems.slice(0, SHOWN).map((problem, index) => (
            <li key={index} className={problem.severity === 'error' ? 'text-gate' : 'text-ink-2'}>
              <b className="font-mono">line {problem.line}</b> {problem.message}
            </li>
          ))}
          {problems.length > SHOWN && <li>and {problems.length - SHOWN} more</li>}
        </ul>
      )}
      <Incoming found={preview.ok ? preview.value : null} />
    </section>
  )
}

function Incoming({ found }: { found: ImportPreview | null }) {
  const { rate, firstFrame } = useReel()
  const timecode = (frame: number): string => formatTimecode(firstFrame + frame, FRAME_RATES[rate])
  const cues = found?.cues ?? []
  return (
    <div className="min-h-0 flex-1 overflow-auto">
      <table className="w-full text-left text-[12px]">
        <thead className="sticky top-0 bg-paper-2 text-[11px] text-ink-2">
          <tr>
            {TITLES.map((title) => (
              <th key={title} className="px-2 py-1 font-semibold">
                {title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {cues.slice(0, SHOWN).map((cue, index) => (
            <tr key={index} className={`ink-${cue.category} border-b border-hair`}>
              <td className="px-2 py-1 font-mono text-ink-3">{found?.lines[index]}</td>
              <td className="px-2 py-1 font-bold whitespace-nowrap text-(--cat)">{cueCode(cue)}</td>
              <td className="px-2 py-1 font-mono">{timecode(cue.in)}</td>
              <td className="px-2 py-1 font-mono">{timecode(cue.out)}</td>
              <td className="px-2 py-1">{cue.words}</td>
              <td className="px-2 py-1">{cue.source}</td>
              <td className="px-2 py-1">{cue.notes}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {cues.length > SHOWN && <p className="p-3 text-ink-2">and {cues.length - SHOWN} more</p>}
    </div>
  )
}

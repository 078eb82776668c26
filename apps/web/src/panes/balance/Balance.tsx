import { CATEGORIES, CATEGORY_NAMES, insertsOn, SILENT_LUFS, stemPlace, WHOLE } from '@yodel/core'
import { useState } from 'react'
import { useAppSelector } from '../../document/store.js'
import type { MixPart, PartLevels } from '../../engine/messages.js'
import { Beside } from './Beside.js'
import { Treatment } from './Treatment.js'
import { useMixLevels } from './useMixLevels.js'

const PARTS: readonly MixPart[] = ['whole', ...CATEGORIES]
const nameOf = (part: MixPart): string => (part === 'whole' ? 'The whole' : CATEGORY_NAMES[part])

/** The balance of the reel: how loud the whole and each stem have been since playing started, and their treatment. */
export function Balance() {
  const [part, setPart] = useState<MixPart>('whole')
  const levels = useMixLevels()
  const doc = useAppSelector((state) => state.document.doc)
  const place = part === 'whole' ? WHOLE : stemPlace(part)
  return (
    <div className="flex min-h-0 flex-1 flex-col overflow-y-auto px-3 py-2.5" data-balance>
      <p className="text-[11.5px] text-ink-2">Loudness since playing started, in LUFS; true peak in dBTP.</p>
      <table className="mt-2 w-full table-fixed text-[11.5px]">
        <thead>
          <tr className="text-left text-[10.5px] text-ink-3">
            <th className="w-[84px] font-normal">Part</th>
            <th className="text-right font-normal" title="The last 0.4 seconds">
              now
            </th>
            <th className="text-right font-normal" title="The last 3 seconds">
              3 s
            </th>
            <th className="text-right font-normal" title="All that was played, gated">
              all
            </th>
            <th className="text-right font-normal">peak</th>
          </tr>
        </thead>
        <tbody>
          {PARTS.map((one) => (
            <tr
              key={one}
              aria-selected={one === part}
              data-part={one}
              onClick={() => setPart(one)}
              className={`cursor-pointer border-t border-hair ${one === 'whole' ? '' : `ink-${one}`} ${one === part ? 'bg-card shadow-[inset_4px_0_0_var(--gate)]' : 'hover:bg-card'}`}
            >
              <td className="py-1 pl-2">
                <button type="button" className="text-left" onClick={() => setPart(one)}>
                  <b className={one === 'whole' ? '' : 'text-(--cat)'}>{one === 'whole' ? 'Whole' : one}</b>
                  {insertsOn(doc, one === 'whole' ? WHOLE : stemPlace(one)).length > 0 && (
                    <span className="text-ink-2"> treated</span>
                  )}
                </button>
              </td>
              <Numbers levels={levels[one]} />
            </tr>
          ))}
        </tbody>
      </table>
      <Beside />
      <div className={part === 'whole' ? '' : `ink-${part}`}>
        <h3 className="mt-4 border-t border-line pt-2 text-[13px] font-bold">{nameOf(part)}</h3>
        <Treatment key={place} on={place} />
      </div>
    </div>
  )
}

function Numbers({ levels }: { levels: PartLevels | undefined }) {
  const shown = [levels?.momentary, levels?.shortTerm, levels?.integrated].map((value) =>
    value === undefined || value <= SILENT_LUFS ? '–' : value.toFixed(1),
  )
  const peak = levels === undefined || levels.truePeak <= SILENT_LUFS ? '–' : levels.truePeak.toFixed(1)
  return (
    <>
      {shown.map((text, index) => (
        <td key={index} className="text-right font-mono">
          {text}
        </td>
      ))}
      <td
        className={`text-right font-mono ${(levels?.truePeak ?? -Infinity) > -1 ? 'font-bold text-gate' : ''}`}
      >
        {peak}
      </td>
    </>
  )
}

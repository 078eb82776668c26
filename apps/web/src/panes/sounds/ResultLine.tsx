import type { FoundSound } from '@yodel/core'
import { fitText } from '../../ui/fitText.js'
import { lengthOf } from './describe.js'
import { ResultWave } from './ResultWave.js'
import { Marked, metByName, saidOf } from './ResultWords.js'

/** Pixels of the length at the right. */
const LENGTH = 52
/** From this width of a row on, an outline stands beside the name. */
const WITH_WAVE = 420
const WAVE = 130

/** A result on one line: its name, its outline where there is room, its length. */
export function ResultLine(props: {
  sound: FoundSound
  width: number
  chosen: boolean
  near: string | null
}) {
  const { sound, width, chosen, near } = props
  const hasWave = width >= WITH_WAVE
  const room = width - 24 - LENGTH - (hasWave ? WAVE + 8 : 0)
  const about = near ? `Used at ${near}. ${saidOf(sound)}` : saidOf(sound)
  return (
    <div className="flex h-full items-center gap-2 pr-3" title={`${sound.name}. ${about}`}>
      <span
        className={`min-w-0 flex-1 text-[12.5px] whitespace-pre ${near ? 'text-gate' : ''} ${sound.missing ? 'line-through' : ''}`}
      >
        <Marked text={fitText(sound.name, '400 12.5px', room)} matches={metByName(sound)} />
      </span>
      {hasWave && <ResultWave sound={sound} width={WAVE} height={16} chosen={chosen} />}
      <span className="text-right font-mono text-[11.5px] text-ink-2" style={{ width: LENGTH - 8 }}>
        {lengthOf(sound.length)}
      </span>
    </div>
  )
}

import type { FoundSound } from '@yodel/core'
import { columnWidth, type ResultsLook } from '../../document/resultsLook.js'
import { fitText } from '../../ui/fitText.js'
import { columnsShown } from './resultColumns.js'
import { ResultWave } from './ResultWave.js'
import { Marked, metByName } from './ResultWords.js'

/** Pixels by which the name, which stays in sight, reaches to the left over the edge of the row. */
export const EDGE = 12

/** A result as a line of the table. */
export function ResultCells(props: {
  sound: FoundSound
  look: ResultsLook
  chosen: boolean
  near: string | null
}) {
  const { sound, look, chosen, near } = props
  return (
    <div className="flex h-full items-center bg-inherit">
      {columnsShown(look).map(({ key, figures, text }, index) => {
        const width = columnWidth(look, key)
        const said = text(sound)
        const room = width - 10
        return (
          <span
            key={key}
            data-cell={key}
            className={`shrink-0 pr-2.5 text-[12px] whitespace-pre ${figures ? 'text-right font-mono text-[11.5px]' : ''} ${key === 'name' ? `${index === 0 ? 'sticky left-0 z-1 -ml-3 flex h-full items-center bg-inherit pl-3' : ''} font-semibold ${near ? 'text-gate' : ''} ${sound.missing ? 'line-through' : ''}` : 'text-ink-2'}`}
            style={{ width: key === 'name' && index === 0 ? width + EDGE : width }}
            title={near && key === 'name' ? `${said}, used at ${near}` : said}
          >
            {key === 'wave' ? (
              <ResultWave sound={sound} width={room} height={16} chosen={chosen} />
            ) : key === 'name' ? (
              <Marked text={fitText(said, '600 12px', room)} matches={metByName(sound)} />
            ) : figures ? (
              said
            ) : (
              fitText(said, '400 12px', room)
            )}
          </span>
        )
      })}
    </div>
  )
}

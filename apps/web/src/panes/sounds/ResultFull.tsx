import type { FoundSound } from '@yodel/core'
import { fitText, widthOf } from '../../ui/fitText.js'
import { channelsOf, figuresOf, placeFigures } from './describe.js'
import { Qualities } from './Qualities.js'
import { ResultWave } from './ResultWave.js'
import { Marked, metByName, saidOf } from './ResultWords.js'

/** A result with all that helps to choose by eye: name, why it was found, outline, qualities. Figures give way to a long name. */
export function ResultFull(props: {
  sound: FoundSound
  width: number
  chosen: boolean
  near: string | null
}) {
  const { sound, width, chosen, near } = props
  const said = saidOf(sound)
  const nearWords = near ? `used at ${near} · ` : ''
  const { beside, below } = placeFigures(figuresOf(sound), width - 24 - widthOf(sound.name, NAME), roomOf)
  const last = [...below, channelsOf(sound.channels)].join(' · ')
  return (
    <>
      <div className="flex items-baseline gap-2">
        <span
          className={`min-w-0 flex-1 font-semibold whitespace-pre ${sound.missing ? 'line-through' : ''}`}
          title={sound.name}
        >
          <Marked
            text={fitText(
              sound.name,
              NAME,
              width - 24 - beside.reduce((sum, figure) => sum + roomOf(figure), 0),
            )}
            matches={metByName(sound)}
          />
        </span>
        {beside.map((figure) => (
          <span key={figure} className="font-mono text-[11.5px] whitespace-nowrap text-ink-2">
            {figure}
          </span>
        ))}
      </div>
      <div className="flex items-baseline gap-2 text-[11.5px] text-ink-2">
        <span className="min-w-0 flex-1 whitespace-pre" title={said}>
          {near ? <b className="font-semibold text-gate">{nearWords}</b> : null}
          {fitText(
            said,
            '400 11.5px',
            width - 24 - 8 - widthOf(nearWords, '600 11.5px') - widthOf(last, '400 11.5px'),
          )}
        </span>
        <span className="whitespace-nowrap">{last}</span>
      </div>
      <div className="flex items-center gap-2 pt-px">
        <ResultWave sound={sound} width={width - 24 - 42} height={18} chosen={chosen} />
        <Qualities sound={sound} />
      </div>
    </>
  )
}

const NAME = '600 13px'
/** Pixels that a figure takes beside a name, the gap before it included. */
const roomOf = (figure: string): number => figure.length * 7 + 8

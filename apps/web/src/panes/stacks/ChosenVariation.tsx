import { decibelText, shakeStack, type FoundLayers, type SoundToPlace, type StackPlan } from '@yodel/core'
import { Lock, LockOpen } from 'lucide-react'
import { KeyOf } from '../../actions/useKeys.js'
import { useCommands } from '../../commands/CommandsProvider.js'
import { stackActions } from '../../document/stackSlice.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { useSession } from '../../session/session.js'
import { Button } from '../../ui/Button.js'

/** The chosen variation: what its layers are, which of them stay when the others are shaken, and what can be done with it. */
export function ChosenVariation({ plan, found }: { plan: StackPlan; found: FoundLayers }) {
  const dispatch = useAppDispatch()
  const { stacks } = useCommands()
  const { listening } = useSession()
  const { chosen, held, place } = useAppSelector((state) => state.stacking)
  if (!chosen)
    return (
      <p className="shrink-0 px-3 py-2 text-[12px] text-ink-2">
        Choose one to hear it; Enter tries it on the cue, the next press keeps it.
      </p>
    )
  const layers = new Map(shakeStack(plan, chosen, found).map((one) => [one.layer, one]))
  return (
    <div className="max-h-[46%] shrink-0 overflow-y-auto bg-card px-3 py-2" data-variation>
      <b className="text-[12.5px]">
        {plan.name} {chosen.seed}
      </b>
      <ul className="my-1 text-[12px]">
        {plan.layers.map(({ id, name, category }) => {
          const sound = layers.get(id)?.sound
          const isHeld = held.includes(id)
          const said = sound && [sound.name, ...chanceOf(sound)].join(', ')
          return (
            <li key={id} className={`ink-${category} flex h-6 items-center gap-1.5`}>
              <button
                type="button"
                className="flex h-6 w-6 shrink-0 items-center justify-center text-ink-2 hover:text-ink"
                aria-pressed={isHeld}
                aria-label={`Hold ${name}`}
                title={isHeld ? 'Stays when the others are shaken' : 'Hold it while the others are shaken'}
                onClick={() => dispatch(stackActions.toggleHeld(id))}
              >
                {isHeld ? <Lock size={13} className="text-gate" /> : <LockOpen size={13} />}
              </button>
              <span className="w-[72px] shrink-0 truncate font-semibold text-(--cat)">{name}</span>
              <span className={`min-w-0 flex-1 truncate ${sound ? '' : 'text-ink-3'}`} title={said}>
                {sound?.name ?? 'not there'}
              </span>
              <span className="font-mono text-[11px] whitespace-nowrap text-ink-2" title={said}>
                {sound && decibelText(sound.gain ?? 0)}
              </span>
            </li>
          )
        })}
      </ul>
      <div className="flex flex-wrap items-center gap-1.5">
        {place ? (
          <>
            <Button look="gate" onClick={stacks.keep}>
              Keep <KeyOf action="enter" onDark />
            </Button>
            <Button onClick={stacks.putBack}>
              Put back <KeyOf action="leave" />
            </Button>
          </>
        ) : (
          <>
            <Button look="strong" onClick={stacks.here}>
              Try
            </Button>
            <Button onClick={stacks.hear}>Listen</Button>
            <Button onClick={() => listening.stop()}>Stop</Button>
          </>
        )}
        {held.length > 0 && <Button onClick={() => dispatch(stackActions.shake())}>Shake the others</Button>}
      </div>
    </div>
  )
}

/** What chance has made of a sound: `−3.2 dB`, `2.1 semitones higher`, `80 % speed, pitch kept`, `backwards`. */
function chanceOf({ gain = 0, speed = 1, keepPitch = false, reverse = false }: SoundToPlace): string[] {
  const pitch = keepPitch ? 0 : 12 * Math.log2(speed)
  return [
    decibelText(gain),
    ...(Math.abs(pitch) >= 0.05
      ? [`${Math.abs(pitch).toFixed(1)} semitones ${pitch < 0 ? 'lower' : 'higher'}`]
      : []),
    ...(keepPitch && speed !== 1 ? [`${Math.round(speed * 100)} % speed, pitch kept`] : []),
    ...(reverse ? ['backwards'] : []),
  ]
}

import { decibelText, nameStack, type Clip, type Stack } from '@yodel/core'
import { KeyOf } from '../../actions/useKeys.js'
import { useCommands } from '../../commands/CommandsProvider.js'
import { edit } from '../../document/edit.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { useTables } from '../../document/useTables.js'
import { viewActions } from '../../document/viewSlice.js'
import { Button } from '../../ui/Button.js'
import { TextField } from '../../ui/TextField.js'

/** A stack: its name, its layers, and what can be done with it as one thing. */
export function StackCard({ stack, layers }: { stack: Stack; layers: readonly Clip[] }) {
  const dispatch = useAppDispatch()
  const { shape, stacks } = useCommands()
  const doc = useTables('track', 'cue')
  const isOpen = useAppSelector((state) => state.view.openStacks.includes(stack.id))
  const cue = doc.cue.get(layers[0]?.cueId ?? '')
  const choose = (clip: Clip): void => {
    if (!isOpen) dispatch(viewActions.toggleStack(stack.id))
    dispatch(viewActions.select([clip.id]))
  }
  return (
    <div data-stack-card>
      <TextField
        label="Name of the stack"
        value={stack.name}
        className="text-[16px] font-bold"
        onCommit={(name) => dispatch(edit((now) => nameStack(now, { id: stack.id, name })))}
      />
      <p className="text-[12px] text-ink-2">
        Stack of {layers.length} {layers.length === 1 ? 'layer' : 'layers'}
        {stack.planId !== '' && `, variation ${stack.variation.split(' ')[0]}`}
        {cue && `, for “${cue.words}”`}
      </p>
      <ul className="my-2 text-[12px]">
        {layers.map((clip) => {
          const track = doc.track.get(clip.trackId)
          return (
            <li key={clip.id} className={`ink-${track?.category ?? 'FX'}`}>
              <button
                type="button"
                className="flex min-h-6 w-full items-baseline gap-2 text-left hover:underline"
                title="Opens the stack and chooses this layer"
                onClick={() => choose(clip)}
              >
                <span className="w-[74px] shrink-0 truncate font-semibold text-(--cat)">{track?.name}</span>
                <span className={`min-w-0 flex-1 truncate ${clip.mute ? 'text-ink-3 line-through' : ''}`}>
                  {clip.name}
                </span>
                <span className="font-mono text-[11px] text-ink-2">{decibelText(clip.gain)}</span>
              </button>
            </li>
          )
        })}
      </ul>
      <div className="flex flex-wrap gap-1.5">
        <Button onClick={() => stacks.open()}>
          {isOpen ? 'Close' : 'Open'} <KeyOf action="open-stack" />
        </Button>
        {stack.planId !== '' && (
          <>
            <Button onClick={() => void stacks.swap(-1)}>
              Variation before <KeyOf action="swap-previous-event" />
            </Button>
            <Button onClick={() => void stacks.swap(1)}>
              Next variation <KeyOf action="swap-next-event" />
            </Button>
          </>
        )}
        <Button onClick={() => shape.gainBy(-3)}>−3 dB</Button>
        <Button onClick={() => shape.gainBy(3)}>+3 dB</Button>
        <Button onClick={shape.mute}>
          Mute <KeyOf action="mute" />
        </Button>
        <Button onClick={shape.duplicate}>
          Duplicate <KeyOf action="duplicate" />
        </Button>
        <Button onClick={shape.ungroup}>
          Take apart <KeyOf action="ungroup" />
        </Button>
        <Button onClick={shape.remove}>
          Delete <KeyOf action="delete" />
        </Button>
      </div>
    </div>
  )
}

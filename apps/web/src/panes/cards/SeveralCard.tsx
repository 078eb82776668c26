import {
  CATEGORIES,
  cueStateSchema,
  editCues,
  STATE_NAMES,
  type Category,
  type Cue,
  type CueState,
} from '@yodel/core'
import { KeyOf } from '../../actions/useKeys.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { STATE_MARKS } from '../../ui/stateMarks.js'
import { Button } from '../../ui/Button.js'
import { TextField } from '../../ui/TextField.js'
import { useCommands } from '../../commands/CommandsProvider.js'
import { Choice } from '../../ui/Choice.js'
import { edit } from '../../document/edit.js'

const counted = (count: number, what: string): string =>
  count === 0 ? '' : `${count} ${what}${count === 1 ? '' : 's'}`

/** What can be done with several cues or sounds at once, as one step. */
export function SeveralCard({ ids }: { ids: readonly string[] }) {
  const dispatch = useAppDispatch()
  const commands = useCommands()
  const doc = useAppSelector((state) => state.document.doc)
  const cues = ids.flatMap((id) => doc.cue.get(id) ?? [])
  const clips = ids.filter((id) => doc.clip.get(id))
  const set = (fields: Partial<Omit<Cue, 'kind' | 'id'>>): boolean =>
    dispatch(edit((now) => editCues(now, { edits: cues.map(({ id }) => ({ id, fields })) })))
  return (
    <>
      <h2 className="text-[16px] font-bold">
        {[counted(cues.length, 'cue'), counted(clips.length, 'sound')].filter(Boolean).join(', ')}
      </h2>
      {cues.length > 0 && (
        <div className="mt-3 flex flex-col gap-2">
          <div className="flex gap-2">
            <Choice<CueState | ''>
              label="State of all"
              value=""
              options={[
                ['', 'set state …'],
                ...cueStateSchema.options.map(
                  (state) => [state, `${STATE_MARKS[state]} ${STATE_NAMES[state]}`] as const,
                ),
              ]}
              onChange={(state) => state !== '' && set({ state })}
            />
            <Choice<Category | ''>
              label="Category of all"
              value=""
              options={[
                ['', 'set category …'],
                ...CATEGORIES.map((category) => [category, category] as const),
              ]}
              onChange={(category) => category !== '' && set({ category })}
            />
          </div>
          <TextField
            label="Who does all of them"
            value=""
            placeholder="Who does them? Enter sets all"
            onCommit={(by) => by.trim() !== '' && set({ by: by.trim() })}
          />
        </div>
      )}
      <div className="mt-3 flex flex-wrap gap-1.5">
        {clips.length > 0 && (
          <>
            <Button onClick={() => commands.shape.gainBy(-3)}>−3 dB</Button>
            <Button onClick={() => commands.shape.gainBy(3)}>+3 dB</Button>
            <Button
              onClick={() => commands.shape.stepGain(-3)}
              title="Each 3 dB softer than the one before it"
            >
              softer step by step
            </Button>
            <Button onClick={commands.shape.crossfade}>
              Crossfade <KeyOf action="crossfade" />
            </Button>
            <Button onClick={commands.shape.duplicate}>
              Duplicate <KeyOf action="duplicate" />
            </Button>
            <Button
              onClick={commands.swap.forChosen}
              title="The sound chosen in the pane takes the place of each"
            >
              Swap <KeyOf action="swap" />
            </Button>
            <Button onClick={() => commands.shape.group()}>
              Group <KeyOf action="group" />
            </Button>
            <Button onClick={commands.shape.mute}>
              Mute <KeyOf action="mute" />
            </Button>
            <Button onClick={commands.shape.toggleLock}>
              Lock <KeyOf action="lock" />
            </Button>
          </>
        )}
        <Button onClick={commands.shape.remove}>
          Delete <KeyOf action="delete" />
        </Button>
      </div>
    </>
  )
}

import type { TakeCues } from '@yodel/core'
import { X } from 'lucide-react'
import { useState } from 'react'
import { useCommands } from '../../commands/CommandsProvider.js'
import type { PullTo } from '../../commands/performing.js'
import { performActions } from '../../document/performSlice.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Button } from '../../ui/Button.js'
import { Choice } from '../../ui/Choice.js'
import { LagPart } from './LagPart.js'
import type { Midi } from './useMidi.js'

const SMALL = 'px-1.5 py-0 text-[11.5px]'

/** What can be done to what was performed, before it is kept. */
export function TakeTools({ midi }: { midi: Midi }) {
  const dispatch = useAppDispatch()
  const { perform } = useCommands()
  const { takes, current, chosen, punch, exercise } = useAppSelector((state) => state.perform)
  const hasTake = takes.length > 0
  return (
    <div className="flex flex-wrap items-center gap-1.5 text-[12px]">
      <Takes />
      {current.length > 0 && <span role="status">{current.length} hits so far</span>}
      {hasTake && (
        <>
          <span className="flex items-center gap-1" role="group" aria-label="The chosen take">
            <Button className={SMALL} title="A frame earlier" onClick={() => perform.shift({ frames: -1 })}>
              −1
            </Button>
            <Button
              className={SMALL}
              title="A tenth of a frame earlier"
              onClick={() => perform.shift({ tenths: -1 })}
            >
              −⅒
            </Button>
            <Button
              className={SMALL}
              title="A tenth of a frame later"
              onClick={() => perform.shift({ tenths: 1 })}
            >
              +⅒
            </Button>
            <Button className={SMALL} title="A frame later" onClick={() => perform.shift({ frames: 1 })}>
              +1
            </Button>
            <Pull />
            <Button
              className={SMALL}
              title="Leave out what comes within three frames of another"
              onClick={() => perform.thin(3)}
            >
              Thin
            </Button>
            <Button
              className={SMALL}
              title="Each hit 1.5 dB softer than the one before"
              onClick={() => perform.soften(-1.5)}
            >
              Softer
            </Button>
            <Button
              className={SMALL}
              title="Other members of the pools, the same places"
              onClick={perform.shake}
            >
              Shake
            </Button>
            <Button
              className={SMALL}
              look={punch ? 'strong' : 'plain'}
              aria-pressed={punch}
              disabled={chosen === null}
              title="What is performed now replaces the chosen take where it lies"
              onClick={() => dispatch(performActions.setPunch(!punch))}
            >
              Punch
            </Button>
          </span>
          <Keep />
        </>
      )}
      <span className="ml-auto flex items-center gap-1.5 text-[11.5px] text-ink-2">
        <LagPart hasTake={hasTake} />
        {midi.state === 'off' && (
          <Button look="bare" className={SMALL} onClick={midi.begin}>
            MIDI pads …
          </Button>
        )}
        {midi.state === 'on' && 'MIDI pads are listened to'}
        {!hasTake &&
          !exercise &&
          current.length === 0 &&
          'Play, and hit the keys; what you hit becomes a take when you stop.'}
      </span>
    </div>
  )
}

function Takes() {
  const dispatch = useAppDispatch()
  const { perform } = useCommands()
  const { takes, chosen } = useAppSelector((state) => state.perform)
  return takes.map(({ id, hits, on }, index) => (
    <span
      key={id}
      className={`flex items-center rounded-[5px] border bg-card ${id === chosen ? 'border-gate' : 'border-line'}`}
      data-take={id}
    >
      <input
        type="checkbox"
        className="ml-1.5"
        checked={on}
        aria-label={`Take ${index + 1} is heard`}
        onChange={() => perform.setOn(id, !on)}
      />
      <button
        type="button"
        aria-pressed={id === chosen}
        className="min-h-6 px-1.5"
        onClick={() => dispatch(performActions.choose(id))}
      >
        Take {index + 1}, {hits.length}
      </button>
      <button
        type="button"
        aria-label={`Drop take ${index + 1}`}
        title="Drop"
        className="grid size-6 place-items-center text-ink-2 hover:text-ink"
        onClick={() => perform.drop(id)}
      >
        <X size={12} />
      </button>
    </span>
  ))
}

/** Frames within which a hit is pulled. */
const REACH = 4

function Pull() {
  const { perform } = useCommands()
  return (
    <Choice<PullTo | ''>
      label="Pull onto"
      value=""
      options={[
        ['', 'Pull onto …'],
        ['onsets', 'onsets of the guide'],
        ['cuts', 'cuts'],
        ['cues', 'cues'],
      ]}
      title={`The nearest within ${REACH} frames`}
      onChange={(to) => to !== '' && perform.pull(to, REACH)}
      givesBack
      className="max-w-[96px]"
    />
  )
}

function Keep() {
  const { perform } = useCommands()
  const [cues, setCues] = useState<TakeCues>('run')
  const [words, setWords] = useState('')
  return (
    <form
      className="flex items-center gap-1"
      onSubmit={(event) => {
        event.preventDefault()
        perform.keep(cues, words.trim() || 'Performed')
        if (document.activeElement instanceof HTMLElement) document.activeElement.blur()
      }}
    >
      <Button look="gate" type="submit" className="py-0.5">
        Keep
      </Button>
      <Choice
        label="Cues"
        value={cues}
        options={[
          ['run', 'with one cue'],
          ['each', 'a cue each'],
          ['none', 'without cues'],
        ]}
        onChange={setCues}
      />
      {cues === 'run' && (
        <input
          aria-label="Words of the cue"
          placeholder="What it is"
          value={words}
          onChange={(event) => setWords(event.target.value)}
          onKeyDown={(event) => event.stopPropagation()}
          className="h-6 w-[110px] rounded-[3px] border border-line bg-card px-1.5"
        />
      )}
    </form>
  )
}

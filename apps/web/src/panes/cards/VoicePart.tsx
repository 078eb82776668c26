import {
  PACES,
  isStale,
  scratchIn,
  scratchOf,
  textOfLine,
  VOICE_STEPS,
  type Cue,
  type ScratchLine,
  type Voice,
} from '@yodel/core'
import { useMemo } from 'react'
import { KeyOf, useTipWithKey } from '../../actions/useKeys.js'
import { usualVoice, voicesApi } from '../../api/voicesApi.js'
import { useCommands } from '../../commands/CommandsProvider.js'
import { useAppSelector } from '../../document/store.js'
import { paceIn, type Manner } from '../../document/voiceSlice.js'
import { Button, Chip } from '../../ui/Button.js'
import { Choice } from '../../ui/Choice.js'
import { readNumber } from '../../ui/readNumber.js'
import { Row } from '../../ui/Row.js'
import { TextField } from '../../ui/TextField.js'

/** The line of a cue that a machine says until the actor does. */
export function VoicePart({ cue }: { cue: Cue }) {
  const commands = useCommands()
  const clips = useAppSelector((state) => state.document.doc.clip)
  const laid = useMemo(() => scratchOf({ clip: clips }, cue.id), [clips, cue.id])
  const hearTip = useTipWithKey('Hear the line by itself', 'hear-line')
  const { manner, texts, saying, speaking } = useAppSelector((state) => state.voices)
  const { data } = voicesApi.useVoicesQuery()
  const line: ScratchLine = (laid && scratchIn(laid)) ?? { ...manner, text: texts[cue.id] ?? '' }
  const spoken = textOfLine({ text: '' }, cue)
  // A cue of another kind has no line, unless it was given one.
  if (!laid && cue.category !== 'DX') return null
  return (
    <section className="mt-2 border-t border-hair pt-1.5" aria-label="Scratch voice" data-voice={line.voice}>
      <h3 className="flex items-center gap-1 text-[11px] font-bold tracking-wide text-ink-2">
        <span className="flex-1">Scratch voice</span>
        {laid && <Chip>temporary</Chip>}
        <Button look="bare" className="px-1.5" title={hearTip} onClick={() => void commands.voices.hear()}>
          {speaking === cue.id ? 'Stop' : 'Hear'}
        </Button>
        {(!laid || isStale(laid, cue)) && (
          <Button look="bare" className="px-1.5" onClick={() => void commands.voices.say()}>
            {laid ? 'Say anew' : 'Lay'} <KeyOf action="say-line" />
          </Button>
        )}
      </h3>
      {laid && isStale(laid, cue) && (
        <p className="text-[11.5px] text-gate" role="status">
          The words of the cue have changed since it was said.
        </p>
      )}
      <TextField
        label="What the voice says"
        value={line.text}
        placeholder={spoken || 'Words to be said; (1.5) is a pause'}
        multiline
        className="resize-none text-[12.5px] [field-sizing:content]"
        onCommit={(text) => void commands.voices.setText(cue, text.trim())}
      />
      {data && <Manners cue={cue} line={line} voices={data.voices} missing={data.missing} />}
      {saying && (
        <p className="flex items-center gap-2 text-[11.5px] text-ink-2" role="status">
          {saying.of > 1 ? `Line ${saying.done + 1} of ${saying.of}` : 'Being said'}
          {saying.of > 1 && (
            <Button className="px-1.5 py-0" onClick={commands.voices.stop}>
              Stop
            </Button>
          )}
        </p>
      )}
    </section>
  )
}

/** With which voice, how fast and how high. */
function Manners(props: {
  cue: Cue
  line: ScratchLine
  voices: readonly Voice[]
  missing: readonly string[]
}) {
  const { cue, line, voices, missing } = props
  const commands = useCommands()
  const set = (manner: Partial<Manner>): void => void commands.voices.setManner(cue, manner)
  if (voices.length === 0)
    return (
      <p className="text-[11.5px] text-gate">No voice is installed on the server. {missing.join('. ')}</p>
    )
  return (
    <dl className="grid grid-cols-[72px_1fr] gap-x-2 gap-y-1 text-[12px]">
      <Row name="Voice">
        <VoiceChoice voices={voices} value={line.voice} onChange={(voice) => set({ voice })} />
      </Row>
      <Row name="Pace">
        <span className="flex items-center gap-1.5">
          <Choice
            label="Pace"
            value={line.pace === 'cue' ? 'cue' : 'words'}
            options={[
              ['cue', 'as long as the cue'],
              ['words', 'words a minute'],
            ]}
            onChange={(pace) => set({ pace: pace === 'cue' ? 'cue' : PACES.usual })}
          />
          {line.pace !== 'cue' && (
            <TextField
              label="Words a minute"
              value={String(line.pace)}
              className="font-mono !w-10"
              onCommit={(text) => {
                const pace = paceIn(readNumber(text))
                if (pace === null) return false
                set({ pace })
              }}
            />
          )}
        </span>
      </Row>
      <Row name="Pitch">
        <span className="flex items-center gap-1.5">
          <Button
            className="px-1.5 py-0"
            aria-label="Voice lower"
            disabled={line.pitch <= -VOICE_STEPS}
            onClick={() => set({ pitch: line.pitch - 1 })}
          >
            −
          </Button>
          <span className="w-16 text-center font-mono">{pitchWords(line.pitch)}</span>
          <Button
            className="px-1.5 py-0"
            aria-label="Voice higher"
            disabled={line.pitch >= VOICE_STEPS}
            onClick={() => set({ pitch: line.pitch + 1 })}
          >
            +
          </Button>
        </span>
      </Row>
    </dl>
  )
}

/** Steps are half semitones. */
const pitchWords = (steps: number): string =>
  steps === 0 ? 'as it is' : `${steps > 0 ? '+' : '−'}${Math.abs(steps) / 2} st`

/** A voice out of many: those of the person's own languages first, then English ones, then all others by their names. */
function VoiceChoice(props: { voices: readonly Voice[]; value: string; onChange: (name: string) => void }) {
  const { voices, onChange } = props
  const value = props.value || (usualVoice(voices, navigator.languages)?.name ?? '')
  const groups = useMemo(() => {
    const near = new Set([...navigator.languages, 'en'].map((language) => language.split('-')[0]))
    const isNear = ({ language }: Voice): boolean => near.has(language.split('-')[0])
    return [
      ['Near at hand', voices.filter(isNear)],
      ['Other languages', voices.filter((voice) => !isNear(voice))],
    ] as const
  }, [voices])
  const isGone = !voices.some(({ name }) => name === value)
  return (
    <select
      aria-label="Voice"
      value={value}
      onChange={(event) => onChange(event.target.value)}
      className="min-h-6 w-full text-ellipsis rounded-[3px] border border-line bg-card py-0.5 text-[12px] text-ink"
    >
      {isGone && <option value={value}>{value} (not installed)</option>}
      {groups.map(([label, members]) => (
        <optgroup key={label} label={label}>
          {members.map(({ name, called, engine }) => (
            <option key={name} value={name}>
              {called} · {engine}
            </option>
          ))}
        </optgroup>
      ))}
    </select>
  )
}

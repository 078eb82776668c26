import { cueCode, SAMPLES_PER_MS } from '@yodel/core'
import { X } from 'lucide-react'
import { useEffect } from 'react'
import { KeyOf } from '../../actions/useKeys.js'
import { useCommands } from '../../commands/CommandsProvider.js'
import { STAND_INS } from '../../commands/standInActs.js'
import type { RecordSettings } from '../../document/recordSlice.js'
import { useAppSelector } from '../../document/store.js'
import { Button } from '../../ui/Button.js'
import { Choice } from '../../ui/Choice.js'
import { InputMeter } from './InputMeter.js'

const CHANNELS = [
  ['left', 'input 1'],
  ['right', 'input 2'],
  ['both', 'inputs 1 and 2'],
] as const

/** Recording to picture, above the Sheet: the input, how loud it is, how a take rolls. */
export function RecordStrip() {
  const isOn = useAppSelector((state) => state.recording.on)
  return isOn ? <Strip /> : null
}

function Strip() {
  const { record } = useCommands()
  const { phase, settings, trouble, keeping, taking } = useAppSelector((state) => state.recording)
  const isOpen = phase === 'ready' || phase === 'rolling' || phase === 'measuring'
  useEffect(() => record.watch(), [record])
  return (
    <section
      className="flex shrink-0 flex-col gap-1 border-b border-line bg-card px-3 py-1.5 text-[12.5px]"
      aria-label="Record"
      data-record={phase}
      data-input={settings.device}
    >
      <div className="flex min-h-6 flex-wrap items-center gap-x-3 gap-y-1">
        <Button look={phase === 'rolling' ? 'strong' : 'gate'} onClick={() => void record.take()}>
          {phase === 'rolling' ? 'Stop' : phase === 'closed' ? 'Open the input' : 'Record'}{' '}
          <KeyOf action="record" onDark />
        </Button>
        <What />
        {isOpen && <InputMeter />}
        <span className="ml-auto flex items-center gap-2">
          {keeping > 0 && (
            <span className="text-ink-2" role="status">
              {keeping === 1 ? 'A take is being kept' : `${keeping} takes are being kept`}
            </span>
          )}
          <Button look="bare" className="px-1.5!" aria-label="End recording" onClick={record.close}>
            <X size={15} />
          </Button>
        </span>
      </div>
      {taking === null && <Settings settings={settings} isOpen={isOpen} />}
      {trouble && (
        <p className="text-gate" role="alert">
          {trouble}
        </p>
      )}
    </section>
  )
}

/** What the next take is for. */
function What() {
  const taking = useAppSelector((state) => state.recording.taking)
  const cue = useAppSelector((state) => state.document.doc.cue.get(state.view.selected[0] ?? ''))
  if (taking) return <b className="text-gate">{taking.name}</b>
  if (!cue) return <span className="text-ink-2">No cue is selected: a take begins at the gate.</span>
  return (
    <span className={`ink-${cue.category} min-w-0 max-w-[280px] truncate`} title={cue.words}>
      <b className="text-(--cat)">{cueCode(cue)}</b> {cue.words}
    </span>
  )
}

function Settings({ settings, isOpen }: { settings: RecordSettings; isOpen: boolean }) {
  const { record } = useCommands()
  const devices = useAppSelector((state) => state.recording.devices)
  const { device, channel } = settings
  const there = devices.length > 0 ? devices : [{ id: '', name: 'The browser’s own choice' }, ...STAND_INS]
  const isKnown = there.some(({ id }) => id === device)
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1 text-[12px]">
      <Choice
        label="Input"
        className="max-w-[160px]"
        value={device}
        options={[
          ...(isKnown ? [] : [[device, 'The input from last time'] as const]),
          ...there.map(({ id, name }) => [id, name] as const),
        ]}
        onChange={(id) => void record.open(id)}
        givesBack
      />
      <Choice
        label="Channels"
        value={channel}
        options={CHANNELS}
        onChange={(next) => record.set({ channel: next })}
        givesBack
      />
      <Tick label="Count in" name="countIn" settings={settings} />
      <Tick label="Take after take" name="again" settings={settings} />
      <Tick label="Hear the guide" name="guide" settings={settings} />
      <Tick label="Hear the sounds" name="sounds" settings={settings} />
      {isOpen && <RoundTrip isMeasured={device in settings.roundTrips} />}
    </div>
  )
}

function Tick(props: {
  label: string
  name: 'countIn' | 'again' | 'guide' | 'sounds'
  settings: RecordSettings
}) {
  const { label, name, settings } = props
  const { record } = useCommands()
  return (
    <label className="flex min-h-6 items-center gap-1.5">
      <input
        type="checkbox"
        checked={settings[name]}
        onChange={(event) => record.set({ [name]: event.target.checked })}
      />
      {label}
    </label>
  )
}

/** How much earlier takes are placed than they come in, and how to measure that. */
function RoundTrip({ isMeasured }: { isMeasured: boolean }) {
  const { record } = useCommands()
  const { roundTrip, phase } = useAppSelector((state) => state.recording)
  return (
    <span className="flex items-center gap-1.5" data-round-trip={roundTrip}>
      <span className="text-ink-2">
        Round trip <span className="font-mono">{(roundTrip / SAMPLES_PER_MS).toFixed(1)} ms</span>{' '}
        {isMeasured ? 'measured' : 'not measured'}
      </span>
      <Button
        disabled={phase !== 'ready'}
        title="Plays a short sound, and finds it in the input"
        onClick={() => void record.measure()}
      >
        {phase === 'measuring' ? 'Listening …' : 'Measure'}
      </Button>
    </span>
  )
}

import { CATEGORIES, CATEGORY_NAMES, LAYER_LIES, LAYER_SOURCES, type StackLayer } from '@yodel/core'
import { api } from '../../api/api.js'
import { poolsApi } from '../../api/poolsApi.js'
import { useAppSelector } from '../../document/store.js'
import { Choice } from '../../ui/Choice.js'
import { LimitsField } from '../../ui/LimitsField.js'
import { readNumber } from '../../ui/readNumber.js'
import { TextField } from '../../ui/TextField.js'

type Source = StackLayer['source']

const SOURCE_NAMES: Readonly<Record<Source['of'], string>> = {
  search: 'what a search finds',
  kit: 'a kit',
  pool: 'a pool',
}
const LIES_NAMES: Readonly<Record<StackLayer['lies'], string>> = {
  sync: 'its sync point on the moment',
  ends: 'its end on the moment',
  begins: 'its beginning on the moment',
}

/** Where a layer's sounds come from, in words. */
export const sourceWords = ({ source: { of, what, called } }: StackLayer): string =>
  of === 'search' ? (what.trim() ? `“${what}”` : 'nothing is searched yet') : `${of} ${called || '…'}`

/** Everything that a plan says of a layer. */
export function PlanLayer(props: { layer: StackLayer; onChange: (fields: Partial<StackLayer>) => void }) {
  const { layer, onChange } = props
  return (
    <div className="grid grid-cols-[auto_1fr_auto_1fr] items-center gap-x-3 gap-y-1.5 pt-1 pb-3 text-[12px]">
      <span className="text-ink-2">Name</span>
      <TextField
        label="Name of the layer"
        value={layer.name}
        className="!mx-0 border-line! bg-paper"
        onCommit={(name) => {
          if (name.trim() === '') return false
          onChange({ name: name.trim().slice(0, 80) })
        }}
      />
      <span className="text-ink-2">For</span>
      <Choice
        label="Category of the layer"
        value={layer.category}
        options={CATEGORIES.map((one) => [one, CATEGORY_NAMES[one]] as const)}
        onChange={(category) => onChange({ category })}
      />
      <span className="text-ink-2">From</span>
      <Choice
        label="Where its sounds come from"
        value={layer.source.of}
        options={LAYER_SOURCES.map((of) => [of, SOURCE_NAMES[of]] as const)}
        onChange={(of) => onChange({ source: { of, what: '', called: '' } })}
      />
      <span />
      <SourceField source={layer.source} onChange={(source) => onChange({ source })} />
      <span className="text-ink-2">Lies with</span>
      <Choice
        label="How it lies"
        value={layer.lies}
        options={LAYER_LIES.map((one) => [one, LIES_NAMES[one]] as const)}
        onChange={(lies) => onChange({ lies })}
      />
      <LimitsField
        {...{ label: 'Later by, s', value: layer.later, least: -60, most: 60 }}
        onChange={(later) => onChange({ later })}
      />
      <LimitsField
        {...{ label: 'Long, s', value: layer.seconds, least: 0, most: 3600 }}
        onChange={(seconds) => onChange({ seconds })}
      />
      <LimitsField
        {...{ label: 'Gain, dB', value: layer.gain, least: -48, most: 12 }}
        onChange={(gain) => onChange({ gain })}
      />
      <LimitsField
        {...{ label: 'Speed, %', value: asPercent(layer.tempo), least: 25, most: 400 }}
        title="With its pitch kept; as long as it says 100 to 100, speed follows pitch"
        onChange={([low, high]) => onChange({ tempo: [low / 100, high / 100] })}
      />
      <LimitsField
        {...(layer.tempo.every((limit) => limit === 1) ? {} : { instead: 'kept' })}
        {...{ label: 'Pitch, semitones', value: layer.pitch, least: -24, most: 24 }}
        onChange={(pitch) => onChange({ pitch })}
      />
      <span className="text-ink-2">Fades, s</span>
      <span className="flex items-center gap-1.5">
        <Seconds label="Fade in, seconds" value={layer.fadeIn} onChange={(fadeIn) => onChange({ fadeIn })} />
        and
        <Seconds
          label="Fade out, seconds"
          value={layer.fadeOut}
          onChange={(fadeOut) => onChange({ fadeOut })}
        />
      </span>
      <span className="text-ink-2">There, %</span>
      <Chance
        label="Chance to be there, per cent"
        value={layer.there}
        onChange={(there) => onChange({ there })}
      />
      <span className="text-ink-2">Backwards, %</span>
      <Chance
        label="Chance to be backwards, per cent"
        value={layer.reverse}
        onChange={(reverse) => onChange({ reverse })}
      />
    </div>
  )
}

const asPercent = ([low, high]: StackLayer['tempo']): [number, number] => [
  Math.round(low * 100),
  Math.round(high * 100),
]

/** The words of a search, a kit or a pool. */
function SourceField({ source, onChange }: { source: Source; onChange: (source: Source) => void }) {
  const reelId = useAppSelector((state) => state.document.reelId) ?? ''
  const { data: kits = [] } = api.useKitsQuery()
  const { data: pools = [] } = poolsApi.usePoolsQuery(reelId)
  if (source.of === 'search')
    return (
      <TextField
        label="What is searched"
        value={source.what}
        placeholder="words, as in the search of sounds"
        className="!mx-0 border-line! bg-paper"
        onCommit={(what) => onChange({ ...source, what: what.slice(0, 400) })}
      />
    )
  const those = source.of === 'kit' ? kits : pools
  return (
    <Choice
      label={source.of === 'kit' ? 'Which kit' : 'Which pool'}
      value={source.what}
      options={[
        ['', those.length === 0 ? `there is no ${source.of}` : `choose a ${source.of} …`] as const,
        ...those.map(({ id, name }) => [id, name] as const),
      ]}
      onChange={(what) =>
        onChange({ ...source, what, called: those.find(({ id }) => id === what)?.name ?? '' })
      }
    />
  )
}

/** Seconds, or nothing for what every fresh sound has. */
function Seconds(props: { label: string; value: number | null; onChange: (value: number | null) => void }) {
  return (
    <TextField
      label={props.label}
      value={props.value === null ? '' : String(props.value)}
      placeholder="short"
      className="!mx-0 w-14! border-line! bg-paper font-mono"
      onCommit={(text) => {
        if (text.trim() === '') return props.onChange(null)
        const typed = readNumber(text)
        if (typed === null) return false
        props.onChange(Math.max(0, Math.min(60, typed)))
      }}
    />
  )
}

/** A chance, typed in per cent. */
function Chance(props: { label: string; value: number; onChange: (value: number) => void }) {
  return (
    <TextField
      label={props.label}
      value={String(Math.round(props.value * 1000) / 10)}
      className="!mx-0 w-14! border-line! bg-paper font-mono"
      onCommit={(text) => {
        const typed = readNumber(text)
        if (typed === null) return false
        props.onChange(Math.max(0, Math.min(100, typed)) / 100)
      }}
    />
  )
}

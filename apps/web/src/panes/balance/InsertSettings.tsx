import { PLACE_SPECS, reductionDb, responseDb, sectionsOf, type Insert } from '@yodel/core'
import { scaleLinear, scaleLog } from 'd3-scale'
import { line } from 'd3-shape'
import { Choice } from '../../ui/Choice.js'
import { Slider } from '../../ui/Slider.js'
import { TextField } from '../../ui/TextField.js'
import { PLACE_NAMES, ROOM_NAMES, rowsOf } from './settingRows.js'

/** The settings of a piece of treatment, pulled or typed; what is pulled is heard at once and kept on release. */
export function InsertSettings({
  insert,
  pulled,
  onPull,
  onSet,
}: {
  insert: Insert
  /** As it is being pulled, or as it is. */
  pulled: Insert
  onPull: (pulled: Insert | null) => void
  onSet: (fields: Readonly<Record<string, number | string>>) => unknown
}) {
  const values = insert as unknown as Readonly<Record<string, number>>
  const pull = (field: string, value: number | null): void =>
    onPull(value === null ? null : ({ ...insert, [field]: value } as Insert))
  return (
    <>
      {pulled.effect === 'equaliser' && <Curve insert={pulled} />}
      {pulled.effect === 'compressor' && <Law insert={pulled} />}
      {insert.effect === 'reverb' && (
        <Choice
          label="Room"
          value={insert.room}
          options={ROOM_NAMES}
          onChange={(room) => onSet({ room })}
          className="mb-1 w-full"
        />
      )}
      {insert.effect === 'place' && (
        <Choice
          label="Place or device"
          value={insert.place}
          options={PLACE_NAMES}
          onChange={(place) => onSet({ place, distance: PLACE_SPECS[place].distance })}
          className="mb-1 w-full"
        />
      )}
      <dl className="grid grid-cols-[78px_1fr_52px_20px] items-center gap-x-1.5 gap-y-0.5 text-[11.5px]">
        {rowsOf(insert).map(({ field, name, unit, low, high, step, octaves }) => {
          const value = values[field] ?? 0
          const shown = (pulled as unknown as Readonly<Record<string, number>>)[field] ?? 0
          return (
            <div key={field} className="contents">
              <dt className="truncate text-ink-2">{name}</dt>
              <Slider
                label={`${name}, ${unit}`}
                value={value}
                low={low}
                high={high}
                step={step}
                {...(octaves === undefined ? {} : { octaves })}
                onPull={(next) => pull(field, next)}
                onCommit={(next) => onSet({ [field]: next })}
              />
              <TextField
                label={`${name}, typed`}
                value={octaves !== undefined && shown === 0 ? 'off' : String(Math.round(shown * 100) / 100)}
                className="font-mono !w-[52px] !px-1 text-[11px]"
                onCommit={(text) =>
                  (text.trim() === 'off'
                    ? onSet({ [field]: 0 })
                    : text.trim() !== '' &&
                      !Number.isNaN(Number(text)) &&
                      onSet({ [field]: Number(text) })) === true
                }
              />
              <dd className="text-[10.5px] text-ink-3">{unit}</dd>
            </div>
          )
        })}
      </dl>
    </>
  )
}

const WIDE = 258
const TALL = 74
const FREQUENCIES = Array.from({ length: 130 }, (_, i) => 20 * 1000 ** (i / 129))
const x = scaleLog().domain([20, 20_000]).range([0, WIDE])
const y = scaleLinear().domain([24, -24]).range([0, TALL])

/** What an equaliser does, over frequency. */
function Curve({ insert }: { insert: Insert & { effect: 'equaliser' } }) {
  const sections = sectionsOf(insert)
  const path = line<number>(
    (hz) => x(hz),
    (hz) => y(Math.max(-24, responseDb(sections, hz))),
  )(FREQUENCIES)
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${TALL}`}
      className="mb-1 block w-full border border-hair bg-paper"
      role="img"
      aria-label="What the equaliser does, from 20 Hz to 20 kHz, 24 dB up and down"
    >
      {[100, 1000, 10_000].map((hz) => (
        <g key={hz}>
          <line x1={x(hz)} x2={x(hz)} y1={0} y2={TALL} stroke="var(--hair)" />
          <text x={x(hz) + 2} y={TALL - 3} fontSize={10.5} fill="var(--ink-3)">
            {hz < 1000 ? hz : `${hz / 1000} k`}
          </text>
        </g>
      ))}
      <line x1={0} x2={WIDE} y1={y(0)} y2={y(0)} stroke="var(--line)" />
      <path d={path ?? ''} fill="none" stroke="var(--cat, var(--ink))" strokeWidth={1.75} />
    </svg>
  )
}

const LEVELS = Array.from({ length: 61 }, (_, i) => i - 60)
const SIDE = 84
const level = scaleLinear().domain([-60, 0]).range([0, SIDE])

/** What a compressor makes of a level. */
function Law({ insert }: { insert: Insert & { effect: 'compressor' } }) {
  const out = (db: number): number => Math.min(0, db - reductionDb(db, insert) + insert.makeUp)
  const path = line<number>(
    (db) => level(db),
    (db) => SIDE - level(out(db)),
  )(LEVELS)
  return (
    <svg
      viewBox={`0 0 ${SIDE} ${SIDE}`}
      width={SIDE}
      height={SIDE}
      className="mb-1 block border border-hair bg-paper"
      role="img"
      aria-label="What the compressor makes of levels from -60 to 0 dB"
    >
      <line x1={0} y1={SIDE} x2={SIDE} y2={0} stroke="var(--hair)" />
      <path d={path ?? ''} fill="none" stroke="var(--cat, var(--ink))" strokeWidth={1.75} />
    </svg>
  )
}

import { PLACE_SPECS, PLACES, type PlaceId, type Preparation, type Sound } from '@yodel/core'
import { Choice } from '../../ui/Choice.js'
import { channelOptions } from '../../ui/channelOptions.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { TextField } from '../../ui/TextField.js'
import { useSoundHands } from './hands.js'
import { tryActions } from '../../document/trySlice.js'

const SIDES = { kept: 'swapped', swapped: 'summed', summed: 'kept' } as const
const SIDE_NAMES = { kept: 'L R', swapped: 'R L', summed: 'mono' } as const

const PLACE_OPTIONS: readonly (readonly [PlaceId | '', string])[] = [
  ['', 'in no place'],
  ...PLACES.map((place) => [place, PLACE_SPECS[place].name] as const),
]

/** Gain, speed, direction and sides of the chosen sound; how it is listened to. */
export function PrepareBar({ sound }: { sound: Sound }) {
  const dispatch = useAppDispatch()
  const { listening, reel } = useSoundHands()
  const { prepared, loop, matched, through, inPlace, place } = useAppSelector((state) => state.trying)
  const set = (fields: Partial<Preparation>): void => {
    dispatch(tryActions.prepare(fields))
    if (place === null) listening.play(sound)
  }
  const number = (
    label: string,
    shown: string,
    least: number,
    most: number,
    take: (value: number) => void,
  ) => (
    <label className="flex items-center gap-1 text-[11.5px] text-ink-2">
      {label}
      <TextField
        label={label}
        value={shown}
        className="!mx-0 w-[58px]! border-line! bg-paper text-right font-mono text-[12px]"
        onCommit={(text) => {
          const value = Number.parseFloat(text.replace(',', '.').replace('−', '-'))
          if (!Number.isFinite(value) || value < least || value > most) return false
          take(value)
          return true
        }}
      />
    </label>
  )
  return (
    <div className="mt-1.5 flex flex-wrap items-center gap-1">
      {number('Gain', `${prepared.gain.toFixed(1)} dB`, -96, 24, (gain) => set({ gain }))}
      {number('Speed', `${(prepared.speed * 100).toFixed(0)} %`, 25, 400, (percent) =>
        set({ speed: percent / 100 }),
      )}
      <Toggle
        label="Keep the pitch at another speed"
        on={prepared.keepPitch}
        onClick={() => set({ keepPitch: !prepared.keepPitch })}
      >
        pitch kept
      </Toggle>
      <Toggle label="Backwards" on={prepared.reverse} onClick={() => set({ reverse: !prepared.reverse })}>
        reverse
      </Toggle>
      <Toggle
        label="Left and right: as recorded, exchanged, or summed"
        on={prepared.sides !== 'kept'}
        onClick={() => set({ sides: SIDES[prepared.sides] })}
      >
        {SIDE_NAMES[prepared.sides]}
      </Toggle>
      {sound.channels > 1 && (
        <Choice
          label="Channels that are heard"
          value={prepared.channels}
          options={channelOptions(sound.channels)}
          onChange={(channels) => set({ channels })}
        />
      )}
      <Toggle label="Listen round and round" on={loop} onClick={() => dispatch(tryActions.toggleLoop())}>
        loop
      </Toggle>
      {reel && (
        <Toggle
          label="Listen through the treatment, level and place of the chosen track"
          on={through}
          onClick={() => dispatch(tryActions.toggleThrough())}
        >
          through track
        </Toggle>
      )}
      <Choice
        label="Place or device that sounds are heard in"
        title="Hear sounds in a place or through a device before you judge them; what is kept has it as treatment of its own"
        value={inPlace?.place ?? ''}
        options={PLACE_OPTIONS}
        onChange={(wanted) =>
          dispatch(
            tryActions.setInPlace(wanted === '' ? null : { place: wanted, amount: inPlace?.amount ?? 1 }),
          )
        }
      />
      {inPlace &&
        number('Amount', `${Math.round(inPlace.amount * 100)} %`, 1, 100, (percent) =>
          dispatch(tryActions.setInPlace({ ...inPlace, amount: percent / 100 })),
        )}
      <Toggle
        label="Listen at one loudness (−23 LUFS), so that louder does not win"
        on={matched}
        onClick={() => dispatch(tryActions.toggleMatched())}
      >
        level matched
      </Toggle>
    </div>
  )
}

function Toggle({
  label,
  on,
  onClick,
  children,
}: {
  label: string
  on: boolean
  onClick: () => void
  children: string
}) {
  return (
    <button
      type="button"
      title={label}
      aria-pressed={on}
      onClick={onClick}
      className={`min-h-6 rounded-[3px] border px-1.5 text-[11.5px] ${on ? 'border-ink bg-ink text-paper' : 'border-line bg-card text-ink-2 hover:border-ink-3 hover:text-ink'}`}
    >
      {children}
    </button>
  )
}

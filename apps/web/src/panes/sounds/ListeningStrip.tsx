import { isPrepared, UNPREPARED, type Sound } from '@yodel/core'
import { KeyOf } from '../../actions/useKeys.js'
import { X } from 'lucide-react'
import { useEffect, useEffectEvent, useMemo, useRef, useState } from 'react'
import { api } from '../../api/api.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Button } from '../../ui/Button.js'
import { channelsOf, lengthOf } from './describe.js'
import { EventBar } from './EventBar.js'
import { useSoundHands } from './hands.js'
import { PrepareBar } from './PrepareBar.js'
import { SoundCard } from './SoundCard.js'
import { SoundOut } from './SoundOut.js'
import { StripWave } from './StripWave.js'
import { preparationToKeep, tryActions } from '../../document/trySlice.js'

/** The chosen sound: heard from anywhere, prepared, its events stepped through, tried, kept, described. */
export function ListeningStrip({ sound, width }: { sound: Sound; width: number }) {
  const dispatch = useAppDispatch()
  const { listening, reel } = useSoundHands()
  const { place, prepared, loop, matched, through, inPlace } = useAppSelector((state) => state.trying)
  const [about, setAbout] = useState(false)
  useKeptPreparation(sound)
  // Loop and loudness take effect at once on what is heard.
  const playOn = useEffectEvent(() => {
    if (listening.placeAt(sound.id, performance.now()) !== null && place === null) listening.play(sound)
  })
  useEffect(() => playOn(), [loop, matched, through, inPlace])
  return (
    <div className="max-h-[58%] shrink-0 overflow-y-auto border-t border-line bg-card px-3 py-2" data-strip>
      <div className="mb-1 flex items-baseline justify-between gap-2 text-[12px]">
        <b className="truncate font-semibold">{sound.name}</b>
        <span className="font-mono whitespace-nowrap text-ink-2">
          {lengthOf(sound.length)} {sound.measured ? `${sound.loudness.toFixed(1)} LUFS` : ''}
        </span>
      </div>
      <StripWave key={sound.id} sound={sound} width={width} />
      <EventBar sound={sound} />
      <PrepareBar sound={sound} />
      <div className="mt-2 flex flex-wrap items-center gap-1.5">
        {place && reel ? (
          <>
            <Button look="gate" onClick={reel.keep}>
              Keep <KeyOf action="enter" onDark />
            </Button>
            <Button onClick={reel.putBack}>
              Put back <KeyOf action="leave" />
            </Button>
            <Button onClick={reel.hold} title="Hold this one, and try another beside it">
              Layer <KeyOf action="hold-layer" />
            </Button>
          </>
        ) : (
          <>
            {reel && (
              <Button look="strong" onClick={reel.tryHere}>
                Try <KeyOf action="try" onDark />
              </Button>
            )}
            <Button look={reel ? 'plain' : 'strong'} onClick={() => listening.play(sound)}>
              Listen
            </Button>
            <Button onClick={() => listening.stop()}>Stop</Button>
          </>
        )}
        <SoundOut sound={sound} prepared={prepared} />
        {isPrepared(prepared) && (
          <Button onClick={() => dispatch(tryActions.resetPreparation())}>Reset all</Button>
        )}
        <Button look="bare" className="ml-auto" aria-expanded={about} onClick={() => setAbout(!about)}>
          About
        </Button>
      </div>
      <HeldLayers />
      {about ? (
        <SoundCard sound={sound} />
      ) : (
        <div className="mt-1 truncate text-[11px] text-ink-3">
          {sound.shelf} · {channelsOf(sound.channels)} {sound.sampleRate / 1000} kHz ·{' '}
          {sound.licence || 'no licence given'}
        </div>
      )}
    </div>
  )
}

/** The layers that sound beside the chosen one while it is tried. */
function HeldLayers() {
  const dispatch = useAppDispatch()
  const held = useAppSelector((state) => state.trying.held)
  if (held.length === 0) return null
  return (
    <ul className="mt-1.5 flex flex-col gap-px text-[12px]" aria-label="Held layers" data-held>
      {held.map(({ sound }, index) => (
        <li
          key={`${sound.id} ${index}`}
          className="flex items-center gap-1.5 border-l-[3px] border-gate pl-2"
        >
          <span className="min-w-0 flex-1 truncate">{sound.name}</span>
          <button
            type="button"
            className="grid size-6 place-items-center text-ink-2 hover:text-ink"
            aria-label={`Take ${sound.name} out of the try`}
            onClick={() => dispatch(tryActions.drop(index))}
          >
            <X size={13} />
          </button>
        </li>
      ))}
    </ul>
  )
}

const KEEP_MS = 600

/** Brings back how this person prepared the sound before, and keeps what they change; another choice meanwhile loses nothing. */
function useKeptPreparation(sound: Sound): void {
  const dispatch = useAppDispatch()
  const { prepared: whole, suits } = useAppSelector((state) => state.trying)
  const prepared = useMemo(() => preparationToKeep({ prepared: whole, suits }), [whole, suits])
  const { currentData } = api.usePreparedQuery(sound.id, { refetchOnMountOrArgChange: true })
  const [store] = api.usePrepareMutation()
  /** What the server has, as text, and for which sound. */
  const saved = useRef({ id: '', text: '' })
  const waiting = useRef<(() => void) | null>(null)
  useEffect(() => {
    if (currentData === undefined) return
    saved.current = { id: sound.id, text: JSON.stringify(currentData ?? UNPREPARED) }
    if (currentData) dispatch(tryActions.remember(currentData))
  }, [currentData, sound.id, dispatch])
  useEffect(() => {
    const text = JSON.stringify(prepared)
    waiting.current = null
    if (saved.current.id !== sound.id || saved.current.text === text) return
    waiting.current = () => {
      waiting.current = null
      saved.current = { id: sound.id, text }
      void store({ id: sound.id, preparation: isPrepared(prepared) ? prepared : null })
    }
    const timer = setTimeout(() => waiting.current?.(), KEEP_MS)
    return () => clearTimeout(timer)
  }, [prepared, sound.id, store])
  useEffect(() => () => waiting.current?.(), [sound.id])
}

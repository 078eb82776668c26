import {
  CATEGORIES,
  CATEGORY_NAMES,
  clipsOnTrack,
  editTrack,
  moveTrack,
  TRACK_INKS,
  tracksInOrder,
  type Track,
} from '@yodel/core'
import { useMemo } from 'react'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { inkOf } from '../../ui/ink.js'
import { Button } from '../../ui/Button.js'
import { Choice } from '../../ui/Choice.js'
import { Slider } from '../../ui/Slider.js'
import { TextField } from '../../ui/TextField.js'
import { Treatment } from '../balance/Treatment.js'
import { edit } from '../../document/edit.js'
import { viewActions } from '../../document/viewSlice.js'
import { RidePart } from './RidePart.js'
import { Row } from '../../ui/Row.js'

const clamp = (value: number, low: number, high: number): number => Math.min(high, Math.max(low, value))
const CATEGORY_OPTIONS = CATEGORIES.map(
  (category) => [category, `${category} ${CATEGORY_NAMES[category]}`] as const,
)
const INK_OPTIONS = TRACK_INKS.map((ink) => [ink, ink === 'category' ? 'of its category' : ink] as const)
const WIDTH_OPTIONS = [
  ['stereo', 'stereo'],
  ['mono', 'mono: summed'],
] as const

/** A track: its level and place, typed or pulled or ridden, its treatment, and how it stands among the others. */
export function TrackCard({ track }: { track: Track }) {
  const dispatch = useAppDispatch()
  const count = useAppSelector((state) => clipsOnTrack(state.document.doc, track.id).length)
  const ride = useAppSelector((state) => state.view.ride)
  const set = (fields: Partial<Track>, label: string): boolean =>
    dispatch(edit((doc) => editTrack(doc, { id: track.id, fields, label })))
  const setLevel = (value: number): boolean => set({ level: clamp(value, -96, 12) }, `Level of ${track.name}`)
  const setPan = (value: number): boolean => set({ pan: clamp(value, -1, 1) }, `Pan of ${track.name}`)
  const pull = (field: 'level' | 'pan', value: number | null): void =>
    void dispatch(viewActions.pull(value === null ? null : { ...track, [field]: value }))
  const typed = (apply: (value: number) => boolean) => (text: string) =>
    text.trim() === '' || Number.isNaN(Number(text)) ? false : apply(Number(text))
  return (
    <div className={inkOf(track)}>
      <div className="text-[11px] font-bold tracking-wide text-(--cat)">
        {track.category} {CATEGORY_NAMES[track.category]}
      </div>
      <h2 className="mt-1 text-[16px] leading-tight font-bold">{track.name}</h2>
      <p className="text-ink-2">{count === 1 ? '1 sound' : `${count} sounds`}</p>
      <dl className="mt-3 grid grid-cols-[72px_1fr] items-center gap-x-2 gap-y-2 text-[12px]">
        <Row name="Level, dB">
          <Slider
            label="Level"
            value={track.level}
            low={-48}
            high={12}
            step={0.5}
            onPull={(level) => pull('level', level)}
            onCommit={setLevel}
          />
          <TextField
            label="Level, decibels"
            value={track.level.toFixed(1)}
            className="font-mono !w-14"
            onCommit={typed(setLevel)}
          />
        </Row>
        <Row name="Pan">
          <Slider
            label="Pan"
            value={track.pan}
            low={-1}
            high={1}
            step={0.05}
            onPull={(pan) => pull('pan', pan)}
            onCommit={setPan}
          />
          <TextField
            label="Pan, -1 left to 1 right"
            value={track.pan.toFixed(2)}
            className="font-mono !w-14"
            onCommit={typed(setPan)}
          />
        </Row>
      </dl>
      {ride && <RidePart track={track} what={ride} />}
      <Treatment on={track.id} />
      <Standing track={track} set={set} />
    </div>
  )
}

/** What a track is for and how it stands among the others: category, ink, width, folder, place. */
function Standing({ track, set }: { track: Track; set: (fields: Partial<Track>, label: string) => boolean }) {
  const dispatch = useAppDispatch()
  const table = useAppSelector((state) => state.document.doc.track)
  const tracks = useMemo(() => tracksInOrder({ track: table }), [table])
  const folders = useMemo(() => [...new Set(tracks.map((one) => one.folder).filter(Boolean))], [tracks])
  const at = tracks.findIndex((one) => one.id === track.id)
  const move = (by: 1 | -1): boolean =>
    dispatch(
      edit((doc) => moveTrack(doc, { id: track.id, before: tracks[by < 0 ? at - 1 : at + 2]?.id ?? null })),
    )
  return (
    <section className="mt-4 border-t border-line pt-2" aria-label="Track">
      <h3 className="text-[11px] font-bold tracking-wide text-ink-2">Track</h3>
      <dl className="mt-1 grid grid-cols-[72px_1fr] items-center gap-x-2 gap-y-1.5 text-[12px]">
        <Row name="Category">
          <Choice
            label="Category of the track"
            value={track.category}
            options={CATEGORY_OPTIONS}
            onChange={(category) => set({ category }, `${track.name} is ${CATEGORY_NAMES[category]}`)}
          />
        </Row>
        <Row name="Ink">
          <Choice
            label="Ink of the track"
            value={track.ink}
            options={INK_OPTIONS}
            onChange={(ink) => set({ ink }, `Ink of ${track.name}`)}
          />
        </Row>
        <Row name="Width">
          <Choice
            label="Width of the track"
            value={track.width}
            options={WIDTH_OPTIONS}
            onChange={(width) => set({ width }, `${track.name} is ${width}`)}
          />
        </Row>
        <Row name="Folder">
          <TextField
            label="Folder of the track"
            value={track.folder}
            placeholder={folders[0] ? `such as ${folders[0]}` : 'none'}
            onCommit={(folder) =>
              set(
                { folder: folder.trim() },
                folder.trim() === '' ? `${track.name} stands alone` : `${track.name} into ${folder.trim()}`,
              )
            }
          />
        </Row>
        <Row name="Place">
          <span className="flex gap-1.5">
            <Button onClick={() => move(-1)} disabled={at <= 0}>
              ← Left
            </Button>
            <Button onClick={() => move(1)} disabled={at >= tracks.length - 1}>
              Right →
            </Button>
          </span>
        </Row>
        {track.column > 0 && <Row name="On paper">column {track.column}</Row>}
      </dl>
    </section>
  )
}

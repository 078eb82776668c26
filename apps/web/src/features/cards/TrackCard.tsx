import { CATEGORY_NAMES, clipsOnTrack, editTrack, moveTrack, tracksInOrder, type Track } from '@yodel/core'
import { useMemo } from 'react'
import { useAppDispatch, useAppSelector } from '../../app/store.js'
import { Button } from '../../ui/Button.js'
import { Slider } from '../../ui/Slider.js'
import { TextField } from '../../ui/TextField.js'
import { Treatment } from '../balance/Treatment.js'
import { edit } from '../reel/edits.js'
import { viewActions } from '../reel/viewSlice.js'
import { Row } from './SelectionCard.js'

const clamp = (value: number, low: number, high: number): number => Math.min(high, Math.max(low, value))

/** A track: its level, its place between left and right, typed or pulled, and its treatment. */
export function TrackCard({ track }: { track: Track }) {
  const dispatch = useAppDispatch()
  const count = useAppSelector((state) => clipsOnTrack(state.document.doc, track.id).length)
  const table = useAppSelector((state) => state.document.doc.track)
  const tracks = useMemo(() => tracksInOrder({ track: table }), [table])
  const at = tracks.findIndex((one) => one.id === track.id)
  const move = (by: 1 | -1): boolean => dispatch(edit((doc) => moveTrack(doc, { id: track.id, before: tracks[by < 0 ? at - 1 : at + 2]?.id ?? null })))
  const set = (fields: Partial<Pick<Track, 'level' | 'pan'>>, label: string): boolean => dispatch(edit((doc) => editTrack(doc, { id: track.id, fields, label })))
  const setLevel = (value: number): boolean => set({ level: clamp(value, -96, 12) }, `Level of ${track.name}`)
  const setPan = (value: number): boolean => set({ pan: clamp(value, -1, 1) }, `Pan of ${track.name}`)
  const pull = (field: 'level' | 'pan', value: number | null): void => void dispatch(viewActions.pull(value === null ? null : { ...track, [field]: value }))
  const typed = (apply: (value: number) => boolean) => (text: string) => (text.trim() === '' || Number.isNaN(Number(text)) ? false : apply(Number(text)))
  return (
    <div className={`ink-${track.category}`}>
      <div className="text-[11px] font-bold tracking-wide text-(--cat)">
        {track.category} {CATEGORY_NAMES[track.category]}
      </div>
      <h2 className="mt-1 text-[16px] leading-tight font-bold">{track.name}</h2>
      <p className="text-ink-2">{count} sounds</p>
      <div className="mt-2 flex gap-1.5">
        <Button onClick={() => move(-1)} disabled={at <= 0}>
          ← Left
        </Button>
        <Button onClick={() => move(1)} disabled={at >= tracks.length - 1}>
          Right →
        </Button>
      </div>
      <dl className="mt-3 grid grid-cols-[72px_1fr] items-center gap-x-2 gap-y-2 text-[12px]">
        <Row name="Level, dB">
          <Slider label="Level" value={track.level} low={-48} high={12} step={0.5} onPull={(level) => pull('level', level)} onCommit={setLevel} />
          <TextField label="Level, decibels" value={track.level.toFixed(1)} className="font-mono !w-14" onCommit={typed(setLevel)} />
        </Row>
        <Row name="Pan">
          <Slider label="Pan" value={track.pan} low={-1} high={1} step={0.05} onPull={(pan) => pull('pan', pan)} onCommit={setPan} />
          <TextField label="Pan, -1 left to 1 right" value={track.pan.toFixed(2)} className="font-mono !w-14" onCommit={typed(setPan)} />
        </Row>
      </dl>
      <Treatment on={track.id} />
    </div>
  )
}

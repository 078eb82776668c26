import {
  audioFiles,
  currentCut,
  LISTS,
  nameByRule,
  planReel,
  reelOf,
  soundParts,
  samplesIn,
  twoPopOf,
  type ListKind,
  type Recipe,
} from '@yodel/core'
import { useMemo } from 'react'
import { recipeEdited } from '../../../document/recipeSlice.js'
import { useAppDispatch, useAppSelector } from '../../../document/store.js'
import { Choice } from '../../../ui/Choice.js'
import { TextField } from '../../../ui/TextField.js'
import { Group, Tick } from './parts.js'
import { RecipeHead } from './RecipeHead.js'

const KINDS = Object.keys(LISTS) as ListKind[]
const counted = (count: number, what: string): string => `${count} ${what}${count === 1 ? '' : 's'}`

/** What goes out, as the recipe says it, and what that makes of this reel. */
export function RecipePanel() {
  const recipe = useAppSelector((state) => state.recipe)
  const dispatch = useAppDispatch()
  const change = (fields: Partial<Recipe>): void => void dispatch(recipeEdited(fields))
  return (
    <>
      <RecipeHead />
      <Group title="Lists">
        {KINDS.map((kind) => (
          <Tick
            key={kind}
            label={LISTS[kind].title}
            told={LISTS[kind].ending.toUpperCase()}
            checked={recipe.lists.includes(kind)}
            onChange={(on) =>
              change({ lists: KINDS.filter((one) => (one === kind ? on : recipe.lists.includes(one))) })
            }
          />
        ))}
      </Group>
      <AudioGroup recipe={recipe} change={change} />
      <MovieGroup recipe={recipe} change={change} />
      <Asked recipe={recipe} change={change} />
      <SoundsGroup recipe={recipe} change={change} />
      <Named recipe={recipe} change={change} />
    </>
  )
}

interface Part {
  readonly recipe: Recipe
  readonly change: (fields: Partial<Recipe>) => void
}

function AudioGroup({ recipe, change }: Part) {
  const doc = useAppSelector((state) => state.document.doc)
  const plan = useMemo(() => planReel(doc), [doc])
  const count = (fields: Pick<Recipe, 'mix' | 'stems' | 'tracks'>): string =>
    counted(audioFiles(doc, plan, { ...fields, nameRule: '' }, '').length, 'file')
  const none = { mix: false, stems: false, tracks: false }
  const hasRoom = twoPopOf(reelOf(doc)) !== null
  const { treatment } = recipe
  return (
    <Group title="Audio, 48 kHz 24 bit, timestamped">
      <Tick
        label="Stereo mix"
        told={count({ ...none, mix: true })}
        checked={recipe.mix}
        onChange={(mix) => change({ mix, ...(mix ? {} : { movie: 'none' }) })}
      />
      <Tick
        label="Stems by category"
        told={count({ ...none, stems: true })}
        checked={recipe.stems}
        onChange={(stems) => change({ stems })}
      />
      <Tick
        label="Every track"
        told={count({ ...none, tracks: true })}
        checked={recipe.tracks}
        onChange={(tracks) => change({ tracks })}
      />
      <div className="flex items-center gap-2">
        <span className="flex-1">From</span>
        <Choice
          label="Files begin at"
          value={recipe.from}
          options={[
            ['leader', 'the head of the leader'],
            ['programme', 'the programme'],
          ]}
          onChange={(from) => change({ from })}
        />
      </div>
      <Tick
        label="2-pop in each file"
        told={recipe.from === 'programme' ? 'not in the programme' : hasRoom ? '' : 'leader too short'}
        checked={recipe.twoPop}
        disabled={recipe.from === 'programme' || !hasRoom}
        onChange={(twoPop) => change({ twoPop })}
      />
      <div className="flex items-center gap-3">
        <span className="flex-1">Treatment of</span>
        {(
          [
            ['tracks', 'tracks'],
            ['stems', 'stems'],
            ['whole', 'the mix'],
          ] as const
        ).map(([part, label]) => (
          <label key={part} className="flex min-h-6 items-center gap-1">
            <input
              type="checkbox"
              className="size-3.5"
              checked={treatment[part]}
              onChange={(event) => change({ treatment: { ...treatment, [part]: event.target.checked } })}
            />
            {label}
          </label>
        ))}
      </div>
    </Group>
  )
}

function MovieGroup({ recipe, change }: Part) {
  const hasPicture = useAppSelector((state) => currentCut(state.document.doc) !== null)
  return (
    <Group title="Movie with this sound">
      <Choice
        label="Movie with this sound"
        value={recipe.movie}
        options={[
          ['none', 'none'],
          ['mov', 'MOV, its own picture, PCM'],
          ['mp4', 'MP4, its own picture, AAC'],
          ['burnt', 'MP4 with timecode and cues burnt in'],
        ]}
        onChange={(movie) => change({ movie, ...(movie === 'none' ? {} : { mix: true }) })}
      />
      {recipe.movie !== 'none' && !hasPicture && (
        <span className="text-[12px] text-ink-2">The reel has no picture; there will be no movie.</span>
      )}
    </Group>
  )
}

/** A number that may be left out. */
const numberOf = (text: string): number | null | undefined => {
  const plain = text.replace(',', '.').replace('−', '-').trim()
  if (plain === '') return null
  return Number.isFinite(Number(plain)) ? Number(plain) : undefined
}

function Asked({ recipe, change }: Part) {
  const { loudness, truePeak } = recipe
  const field = (
    label: string,
    value: number | null,
    unit: string,
    onValue: (value: number | null) => boolean | void,
  ) => (
    <div className="flex min-h-6 items-center gap-2">
      <span className="flex-1">{label}</span>
      <TextField
        label={label}
        className="w-16! text-right font-mono"
        placeholder="any"
        value={value === null ? '' : String(value).replace('-', '−')}
        onCommit={(text) => {
          const number = numberOf(text)
          return number === undefined ? false : onValue(number)
        }}
      />
      <span className="w-10 text-[12px] text-ink-2">{unit}</span>
    </div>
  )
  return (
    <Group title="Asked of the mix, checked and never applied">
      {field('True peak at most', truePeak, 'dBTP', (value) => {
        if (value !== null && (value > 0 || value < -40)) return false
        change({ truePeak: value })
      })}
      {field('Loudness', loudness?.target ?? null, 'LUFS', (value) => {
        if (value !== null && (value > 0 || value < -60)) return false
        change({ loudness: value === null ? null : { target: value, tolerance: loudness?.tolerance ?? 1 } })
      })}
      {loudness !== null &&
        field('Near enough within', loudness.tolerance, 'LU', (value) => {
          if (value === null || value < 0 || value > 20) return false
          change({ loudness: { ...loudness, tolerance: value } })
        })}
    </Group>
  )
}

function SoundsGroup({ recipe, change }: Part) {
  const doc = useAppSelector((state) => state.document.doc)
  const { sounds, handles } = recipe
  const count = useMemo(
    () => (sounds === 'none' ? 0 : soundParts(doc, sounds === 'cut' ? samplesIn(handles) : null).length),
    [doc, sounds, handles],
  )
  return (
    <Group title="Sounds in use, and the reel itself">
      <div className="flex items-center gap-2">
        <Choice
          label="Sounds in use"
          className="min-w-0 flex-1"
          value={sounds}
          options={[
            ['none', 'stay here'],
            ['whole', 'whole recordings'],
            ['cut', 'what is heard, with handles'],
          ]}
          onChange={(wanted) => change({ sounds: wanted, handles: wanted === 'cut' ? handles || 2 : 0 })}
        />
        <span className="text-[12px] text-ink-2">{sounds === 'none' ? '' : counted(count, 'file')}</span>
      </div>
      {sounds === 'cut' && (
        <div className="flex min-h-6 items-center gap-2">
          <span className="flex-1">Handles</span>
          <TextField
            label="Handles"
            className="w-16! text-right font-mono"
            value={String(handles)}
            onCommit={(text) => {
              const number = numberOf(text)
              if (number === null || number === undefined || number < 0 || number > 60) return false
              change({ handles: number })
            }}
          />
          <span className="w-10 text-[12px] text-ink-2">s</span>
        </div>
      )}
    </Group>
  )
}

function Named({ recipe, change }: Part) {
  const reel = useAppSelector((state) => reelOf(state.document.doc))
  const rule = recipe.nameRule || reel.nameRule
  const today = new Date().toISOString().slice(0, 10)
  return (
    <Group title="Named">
      <TextField
        label="How files are named"
        className="font-mono text-[12px]"
        value={rule}
        onCommit={(nameRule) => change({ nameRule: nameRule === reel.nameRule ? '' : nameRule })}
      />
      <span className="font-mono text-[12px] wrap-anywhere text-ink-2">
        {nameByRule({ ...reel, nameRule: rule }, 'mix', today)}.wav
      </span>
    </Group>
  )
}

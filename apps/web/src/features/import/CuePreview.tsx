import {
  CATEGORIES,
  CATEGORY_NAMES,
  findHead,
  FRAME_RATES,
  guessTimes,
  importCues,
  matchTable,
  previewImport,
  tableOf,
  TIMES_AS,
  type Category,
  type ColumnMatch,
  type FrameRateId,
  type IncomingSheet,
  type SheetHead,
  type SheetTable,
  type TimesAs,
} from '@yodel/core'
import { useMemo, useState, type ReactNode } from 'react'
import { useNavigate } from 'react-router'
import { edit } from '../../document/edit.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { useReel } from '../../session/session.js'
import { ChoiceRow } from '../../ui/ChoiceRow.js'
import { Row } from '../../ui/Row.js'
import { TextField } from '../../ui/TextField.js'
import { ColumnMatcher } from './ColumnMatcher.js'
import { HeadChoice } from './HeadChoice.js'
import { PreviewPart } from './PreviewPart.js'
import { UnknownWords } from './UnknownWords.js'
import { rememberedWords, rememberWord } from './rememberedWords.js'
import { WhatWouldCome } from './WhatWouldCome.js'

const CATEGORY_OPTIONS = CATEGORIES.map(
  (category) => [category, `${category} ${CATEGORY_NAMES[category]}`] as const,
)
const TIMES_OPTIONS = Object.entries(TIMES_AS) as [TimesAs, string][]

const columnOf = ({ rows }: SheetTable, column: number | undefined): string[] =>
  rows.map((row) => row[column ?? -1] ?? '')

/** A file read as cues: its head and columns are matched here, and each cue that would come stands beside. */
export function CuePreview(props: {
  name: string
  sheet: IncomingSheet
  rate: FrameRateId
  head: ReactNode
  onOther: () => void
}) {
  const { sheet } = props
  const rate = FRAME_RATES[props.rate]
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const reel = useReel()
  const doc = useAppSelector((state) => state.document.doc)
  const [head, setHead] = useState<SheetHead>(() => findHead(sheet.rows))
  const table = useMemo(() => tableOf(sheet, head), [sheet, head])
  const guessed = useMemo(() => matchTable(table.headings, table.rows), [table])
  // What was set by hand holds for the head it was set under.
  const [byHand, setByHand] = useState<{ head: SheetHead; match: ColumnMatch } | null>(null)
  const match = byHand?.head === head ? byHand.match : guessed
  const guess = useMemo(() => guessTimes(columnOf(table, match['in']), rate), [table, match, rate])
  const [chosen, setTimes] = useState<TimesAs | null>(null)
  const times = chosen ?? guess.as
  const [category, setCategory] = useState<Category>('FX')
  const [seconds, setSeconds] = useState(1)
  const [spellings, setSpellings] = useState(rememberedWords)
  const preview = useMemo(
    () => previewImport(doc, table, match, { rate, times, category, spellings, seconds }),
    [doc, table, match, rate, times, category, spellings, seconds],
  )
  const found = preview.ok ? preview.value : null
  const problems = [...sheet.problems, ...(found?.problems ?? [])]
  const errors = problems.filter((problem) => problem.severity === 'error').length
  const take = (): void => {
    if (!found) return
    const ids = found.cues.map(() => crypto.randomUUID())
    const done = dispatch(edit((now) => importCues(now, { cues: found.cues, ids, from: sheet.name })))
    if (done) void navigate(`/reels/${reel.id}/list`)
  }
  const endless = match['out'] === undefined && match['length'] === undefined
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[300px_1fr]">
      <PreviewPart
        name={props.name}
        holds={`${table.rows.length.toLocaleString('en')} lines`}
        head={
          <>
            {props.head}
            <HeadChoice sheet={sheet} head={head} onHead={setHead} />
            <ChoiceRow
              name="Times are"
              label="How times are written"
              value={times}
              options={TIMES_OPTIONS}
              onChange={setTimes}
            />
            {guess.ask && chosen === null && (
              <p className="col-span-2 text-gate" role="alert">
                {guess.as === 'timecode'
                  ? 'Times end in two digits after a point: frames, or hundredths of a second? Look at the first line and choose.'
                  : 'Times are bare numbers: look at the first line and choose what they count.'}
              </p>
            )}
            <ChoiceRow
              name="Without category"
              label="Category of lines without one"
              value={category}
              options={CATEGORY_OPTIONS}
              onChange={setCategory}
            />
            <Row name={endless ? 'Each lasts' : 'Without an end'}>
              <span className="flex items-baseline gap-1">
                <TextField
                  label="Seconds of cues without an end"
                  value={String(seconds)}
                  className="max-w-[52px] font-mono"
                  onCommit={(text) => {
                    const value = Number(text.replace(',', '.'))
                    if (value > 0 && value <= 600) setSeconds(value)
                  }}
                />
                {seconds === 1 ? 'second' : 'seconds'}
              </span>
            </Row>
          </>
        }
        title="Columns"
        act={`Import ${(found?.cues.length ?? 0).toLocaleString('en')} ${found?.cues.length === 1 ? 'cue' : 'cues'}`}
        onAct={found && found.cues.length > 0 ? take : null}
        onOther={props.onOther}
        leave="list"
        remark={errors > 0 ? 'Lines with errors are left out.' : ''}
      >
        <UnknownWords
          words={found?.unknown ?? []}
          options={CATEGORY_OPTIONS}
          onMeans={(word, means) => setSpellings(rememberWord(word, means))}
        />
        <ColumnMatcher table={table} match={match} onMatch={(next) => setByHand({ head, match: next })} />
      </PreviewPart>
      <WhatWouldCome preview={preview} problems={problems} />
    </div>
  )
}

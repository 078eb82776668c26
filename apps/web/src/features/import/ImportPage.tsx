import {
  CATEGORIES,
  CATEGORY_NAMES,
  FRAME_RATE_IDS,
  FRAME_RATES,
  importCues,
  matchColumns,
  previewImport,
  type Category,
  type ColumnMatch,
  type FrameRateId,
  type IncomingSheet,
} from '@yodel/core'
import { useMemo, useState, type DragEvent } from 'react'
import { Link, useNavigate } from 'react-router'
import { api, messageOf } from '../../api/api.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { Button } from '../../ui/Button.js'
import { Choice } from '../../ui/Choice.js'
import { edit } from '../../document/edit.js'
import { ReelPage } from '../../panes/shell/ReelPage.js'
import { useReel } from '../../session/session.js'
import { ColumnMatcher } from './ColumnMatcher.js'
import { WhatWouldCome } from './WhatWouldCome.js'

const RATES = FRAME_RATE_IDS.map((id) => [id, FRAME_RATES[id].label] as const)
const CATEGORY_OPTIONS = CATEGORIES.map(
  (category) => [category, `${category} ${CATEGORY_NAMES[category]}`] as const,
)

/** Brings in a sheet that was made elsewhere: choose a file, match its columns, look at what would come, confirm. */
export function ImportPage() {
  const reel = useReel()
  const [read, { isLoading, error, reset }] = api.useReadSheetMutation()
  const [sheet, setSheet] = useState<IncomingSheet | null>(null)
  const choose = (file: File | undefined): void => {
    if (!file) return
    read({ reelId: reel.id, file })
      .unwrap()
      .then(setSheet, () => setSheet(null))
  }
  const onDrop = (event: DragEvent): void => {
    event.preventDefault()
    choose(event.dataTransfer.files[0])
  }
  return (
    <ReelPage>
      <main
        className="flex min-h-0 flex-1 flex-col"
        onDragOver={(event) => event.preventDefault()}
        onDrop={onDrop}
      >
        {sheet ? (
          <Preview
            key={sheet.name}
            sheet={sheet}
            onOther={() => {
              setSheet(null)
              reset()
            }}
          />
        ) : (
          <div className="mx-auto w-full max-w-[620px] px-6 py-10">
            <h1 className="text-[16px] font-bold">Import a sheet</h1>
            <p className="mt-1 text-ink-2">
              CSV, TSV or XLSX as typed elsewhere; WebVTT or SRT, whose lines become dialogue cues; an EDL
              with events or markers; a WAV with markers. Nothing enters the reel before you have seen it.
            </p>
            <label className="mt-4 inline-flex min-h-7 cursor-pointer items-center rounded-[5px] border border-gate bg-gate px-3 py-1 font-semibold text-on-gate focus-within:outline-2">
              {isLoading ? 'Reading …' : 'Choose a file …'}
              <input type="file" className="sr-only" onChange={(event) => choose(event.target.files?.[0])} />
            </label>
            <span className="ml-3 text-ink-2">or drop it here</span>
            {error ? (
              <p role="alert" className="mt-4 text-gate">
                {messageOf(error)}
              </p>
            ) : null}
          </div>
        )}
      </main>
    </ReelPage>
  )
}

function Preview({ sheet, onOther }: { sheet: IncomingSheet; onOther: () => void }) {
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const reel = useReel()
  const doc = useAppSelector((state) => state.document.doc)
  const [match, setMatch] = useState<ColumnMatch>(() => matchColumns(sheet.headings))
  const [rateId, setRateId] = useState<FrameRateId>(reel.rate)
  const [category, setCategory] = useState<Category>('FX')
  const table = useMemo(
    () => ({ headings: sheet.headings, rows: sheet.rows, ...(sheet.lines ? { lines: sheet.lines } : {}) }),
    [sheet],
  )
  const preview = useMemo(
    () => previewImport(doc, table, match, { rate: FRAME_RATES[rateId], category }),
    [doc, table, match, rateId, category],
  )
  const found = preview.ok ? preview.value : null
  const problems = [...sheet.problems, ...(found?.problems ?? [])]
  const errors = problems.filter((problem) => problem.severity === 'error').length
  const take = (): void => {
    if (!found) return
    const done = dispatch(
      edit((now) =>
        importCues(now, {
          cues: found.cues,
          ids: found.cues.map(() => crypto.randomUUID()),
          from: sheet.name,
        }),
      ),
    )
    if (done) void navigate(`/reels/${reel.id}/list`)
  }
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[300px_1fr]">
      <section
        className="overflow-y-auto border-r border-line bg-card px-4 py-4"
        aria-label="What the file says"
      >
        <h1 className="truncate text-[16px] font-bold" title={sheet.name}>
          {sheet.name}
        </h1>
        <p className="text-ink-2">{sheet.rows.length.toLocaleString('en')} lines</p>
        <dl className="mt-3 grid grid-cols-[96px_1fr] items-center gap-x-2 gap-y-1.5 text-[12px]">
          <dt className="text-ink-3">Counted at</dt>
          <dd>
            <Choice label="Frame rate of the sheet" value={rateId} options={RATES} onChange={setRateId} />
          </dd>
          <dt className="text-ink-3">Without category</dt>
          <dd>
            <Choice
              label="Category of lines without one"
              value={category}
              options={CATEGORY_OPTIONS}
              onChange={setCategory}
            />
          </dd>
        </dl>
        <h2 className="mt-4 font-bold">Columns</h2>
        <ColumnMatcher sheet={sheet} match={match} onMatch={setMatch} />
        <div className="mt-5 flex flex-wrap gap-2">
          <Button look="gate" disabled={!found || found.cues.length === 0} onClick={take}>
            Import {found?.cues.length ?? 0} cues
          </Button>
          <Button onClick={onOther}>Another file</Button>
          <Link to={`/reels/${reel.id}/list`} className="self-center text-ink-2 underline">
            Leave
          </Link>
        </div>
        {errors > 0 && <p className="mt-2 text-[12px] text-ink-2">Lines with errors are left out.</p>}
      </section>
      <WhatWouldCome preview={preview} problems={problems} />
    </div>
  )
}

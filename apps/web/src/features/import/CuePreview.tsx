import {
  CATEGORIES,
  CATEGORY_NAMES,
  FRAME_RATES,
  importCues,
  matchColumns,
  previewImport,
  type Category,
  type ColumnMatch,
  type FrameRateId,
  type IncomingSheet,
} from '@yodel/core'
import { useMemo, useState, type ReactNode } from 'react'
import { useNavigate } from 'react-router'
import { edit } from '../../document/edit.js'
import { useAppDispatch, useAppSelector } from '../../document/store.js'
import { useReel } from '../../session/session.js'
import { Choice } from '../../ui/Choice.js'
import { Row } from '../../ui/Row.js'
import { ColumnMatcher } from './ColumnMatcher.js'
import { PreviewPart } from './PreviewPart.js'
import { WhatWouldCome } from './WhatWouldCome.js'

const CATEGORY_OPTIONS = CATEGORIES.map(
  (category) => [category, `${category} ${CATEGORY_NAMES[category]}`] as const,
)

/** A file read as cues: its columns are matched here, and each cue that would come stands beside. */
export function CuePreview(props: {
  name: string
  sheet: IncomingSheet
  rate: FrameRateId
  head: ReactNode
  onOther: () => void
}) {
  const { sheet, rate } = props
  const dispatch = useAppDispatch()
  const navigate = useNavigate()
  const reel = useReel()
  const doc = useAppSelector((state) => state.document.doc)
  const [match, setMatch] = useState<ColumnMatch>(() => matchColumns(sheet.headings))
  const [category, setCategory] = useState<Category>('FX')
  const table = useMemo(
    () => ({ headings: sheet.headings, rows: sheet.rows, ...(sheet.lines ? { lines: sheet.lines } : {}) }),
    [sheet],
  )
  const preview = useMemo(
    () => previewImport(doc, table, match, { rate: FRAME_RATES[rate], category }),
    [doc, table, match, rate, category],
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
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[300px_1fr]">
      <PreviewPart
        name={props.name}
        holds={`${sheet.rows.length.toLocaleString('en')} lines`}
        head={
          <>
            {props.head}
            <Row name="Without category">
              <Choice
                label="Category of lines without one"
                value={category}
                options={CATEGORY_OPTIONS}
                onChange={setCategory}
              />
            </Row>
          </>
        }
        title="Columns"
        act={`Import ${found?.cues.length ?? 0} ${found?.cues.length === 1 ? 'cue' : 'cues'}`}
        onAct={found && found.cues.length > 0 ? take : null}
        onOther={props.onOther}
        leave="list"
        remark={errors > 0 ? 'Lines with errors are left out.' : ''}
      >
        <ColumnMatcher sheet={sheet} match={match} onMatch={setMatch} />
      </PreviewPart>
      <WhatWouldCome preview={preview} problems={problems} />
    </div>
  )
}

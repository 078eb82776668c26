import { PAPERS, type PaperSize, type SheetPaper } from '@yodel/core'
import { useState } from 'react'
import { api, messageOf } from '../../../api/api.js'
import { recipeEdited } from '../../../document/recipeSlice.js'
import { useAppDispatch, useAppSelector } from '../../../document/store.js'
import { useReel } from '../../../session/session.js'
import { Button } from '../../../ui/Button.js'
import { Choice } from '../../../ui/Choice.js'
import { SheetSvg } from './SheetSvg.js'

const SIZES = Object.keys(PAPERS) as PaperSize[]
const TRACKS = [3, 4, 5, 6, 8, 10, 12, 16, 24]
const SECONDS = [10, 15, 20, 30, 60, 90, 120, 180, 300, 600]

/** The mix cue sheet as it will be printed, page by page, and how it is laid out. */
export function PaperView() {
  const { id: reelId } = useReel()
  const paper = useAppSelector((state) => state.recipe.paper)
  // What the server has: paper is made of that.
  const seq = useAppSelector((state) => state.document.settled.seq)
  const { data: sheet, error, isFetching } = api.useMixSheetQuery({ reelId, paper, seq })
  const [at, setAt] = useState(0)
  const pages = sheet?.pages ?? []
  const shown = Math.min(at, Math.max(0, pages.length - 1))
  const page = pages[shown]
  const short = pages.reduce((sum, { boxes }) => sum + boxes.filter(({ cut }) => cut).length, 0)
  return (
    <section className="flex min-w-0 flex-1 flex-col bg-paper-2" aria-label="Mix cue sheet">
      <div className="flex flex-wrap items-center gap-x-1 gap-y-1 border-b border-line px-3 py-2 text-[12px]">
        <Layout paper={paper} />
        <span className="flex-1" />
        <Button look="bare" disabled={shown === 0} onClick={() => setAt(shown - 1)} aria-label="Page before">
          ←
        </Button>
        <span className="font-mono" aria-live="polite" data-pages={pages.length}>
          {pages.length === 0 ? '0' : shown + 1} of {pages.length}
        </span>
        <Button
          look="bare"
          disabled={shown >= pages.length - 1}
          onClick={() => setAt(shown + 1)}
          aria-label="Next page"
        >
          →
        </Button>
        <a
          className="inline-flex min-h-6 items-center rounded-[5px] border border-line bg-card px-2.5 py-1 hover:border-ink-3"
          href={pdfAddress(reelId, paper)}
          download
        >
          PDF
        </a>
      </div>
      <div
        // Scrolled by keys, too.
        tabIndex={0}
        role="region"
        aria-label="The page as it is printed"
        className={`min-h-0 flex-1 overflow-y-auto p-5 ${isFetching && page ? 'opacity-60' : ''}`}
      >
        {error && !sheet ? <p className="text-gate">{messageOf(error)}</p> : null}
        {!sheet && !error && <p className="text-ink-2">Laying the sheet out …</p>}
        {sheet && !page && <p className="text-ink-2">No sound is placed yet; the sheet would be empty.</p>}
        {sheet && page && (
          <div className={`mx-auto ${sheet.width > sheet.height ? 'max-w-[900px]' : 'max-w-[640px]'}`}>
            <SheetSvg sheet={sheet} page={page} />
          </div>
        )}
        {short > 0 && (
          <p className="mt-3 text-center text-[12px] text-ink-2">
            At this scale {short === 1 ? 'a sound has' : `${short} sounds have`} no room for all words. Give a
            page fewer seconds, or fold empty time away.
          </p>
        )}
      </div>
    </section>
  )
}

const pdfAddress = (reelId: string, { landscape, ...paper }: SheetPaper): string =>
  `/api/reels/${reelId}/mix.pdf?${new URLSearchParams(
    Object.entries({ ...paper, turned: landscape ? '1' : '0' }).map(([key, value]) => [key, String(value)]),
  ).toString()}`

/** How the paper is laid out; part of the recipe. */
function Layout({ paper }: { paper: SheetPaper }) {
  const dispatch = useAppDispatch()
  const change = (fields: Partial<SheetPaper>): void =>
    void dispatch(recipeEdited({ paper: { ...paper, ...fields } }))
  const numbers = (values: readonly number[], unit: string) =>
    values.map((value) => [String(value), `${value} ${unit}`] as const)
  return (
    <>
      <Choice
        label="Paper"
        value={paper.size}
        options={SIZES.map((size) => [size, size] as const)}
        onChange={(size) => change({ size })}
      />
      <Choice
        label="Way up"
        value={paper.landscape ? 'landscape' : 'portrait'}
        options={[
          ['portrait', 'upright'],
          ['landscape', 'landscape'],
        ]}
        onChange={(way) => change({ landscape: way === 'landscape' })}
      />
      <Choice
        label="Tracks on a sheet"
        value={String(paper.tracks)}
        options={numbers(TRACKS, 'tracks')}
        onChange={(tracks) => change({ tracks: Number(tracks) })}
      />
      <Choice
        label="Time"
        value={paper.way}
        options={[
          ['packed', 'time folded'],
          ['scale', 'to scale'],
        ]}
        onChange={(way) => change({ way })}
      />
      {paper.way === 'scale' && (
        <Choice
          label="Time on a page"
          value={String(paper.seconds)}
          options={numbers(SECONDS, 's a page')}
          onChange={(seconds) => change({ seconds: Number(seconds) })}
        />
      )}
    </>
  )
}

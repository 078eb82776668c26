import { FRAME_RATE_IDS, FRAME_RATES, type FrameRateId, type IncomingSheet } from '@yodel/core'
import { useRef, useState, type DragEvent } from 'react'
import { api, messageOf } from '../../api/api.js'
import { ReelPage } from '../../panes/shell/ReelPage.js'
import { useReel } from '../../session/session.js'
import { ChoiceRow } from '../../ui/ChoiceRow.js'
import { CuePreview } from './CuePreview.js'
import { Refusal } from '../../ui/Refusal.js'
import { ListPreview } from './list/ListPreview.js'

const RATES = FRAME_RATE_IDS.map((id) => [id, FRAME_RATES[id].label] as const)
const KINDS = [
  ['sounds', 'Sounds on tracks'],
  ['cues', 'Cues'],
] as const

/** A file as it was read, and two numbers by which previews know what of theirs still holds. */
interface Shown {
  readonly sheet: IncomingSheet
  /** Another one for each reading: at another rate a list may have other tracks and files. */
  readonly reading: number
  /** Another one for each file: columns that were matched stay while only the rate is changed. */
  readonly ofFile: number
}

/** Brings in what was made elsewhere, cues or placed sounds: choose a file, look at what would come, confirm. */
export function ImportPage() {
  const reel = useReel()
  const [read, { isLoading, error, reset }] = api.useReadSheetMutation()
  const [file, setFile] = useState<File | null>(null)
  const [rate, setRate] = useState<FrameRateId>(reel.rate)
  const [shown, setShown] = useState<Shown | null>(null)
  const [kind, setKind] = useState<(typeof KINDS)[number][0]>('sounds')
  const readings = useRef(0)
  const readAt = (chosen: File | null | undefined, counted: FrameRateId, ofBook?: string): void => {
    if (!chosen) return
    const reading = ++readings.current
    const sameFile = chosen === file && (ofBook === undefined || ofBook === shown?.sheet.sheet)
    setFile(chosen)
    setRate(counted)
    void read({ reelId: reel.id, file: chosen, rate: counted, sheet: ofBook })
      .unwrap()
      .then(
        (sheet) => ({ sheet, reading, ofFile: sameFile && shown ? shown.ofFile : reading }),
        () => null,
      )
      // What was asked for before is no longer wanted.
      .then((next) => reading === readings.current && setShown(next))
  }
  const choose = (chosen: File | undefined): void => readAt(chosen, reel.rate)
  const onDrop = (event: DragEvent): void => {
    event.preventDefault()
    choose(event.dataTransfer.files[0])
  }
  const onOther = (): void => {
    setShown(null)
    reset()
  }
  const sheet = shown?.sheet ?? null
  const both = sheet !== null && sheet.placed !== null && sheet.rows.length > 0
  const head = (
    <>
      {both && (
        <ChoiceRow name="Bring in" label="What comes in" value={kind} options={KINDS} onChange={setKind} />
      )}
      {sheet && sheet.sheets.length > 1 && (
        <ChoiceRow
          name="Sheet"
          label="Sheet of the workbook"

          value={sheet.sheet}
          options={sheet.sheets.map((name) => [name, name] as const)}
          onChange={(name) => readAt(file, rate, name)}
        />
      )}
      <ChoiceRow
        name="Counted at"
        label="Frame rate of the file"

        value={rate}
        options={RATES}
        onChange={(counted) => readAt(file, counted, sheet?.sheet || undefined)}
      />
    </>
  )
  const parts = { name: sheet?.name ?? '', head, onOther }
  return (
    <ReelPage>
      <main
        className="flex min-h-0 flex-1 flex-col"
        onDragOver={(event) => event.preventDefault()}
        onDrop={onDrop}
      >
        {sheet?.placed && !(both && kind === 'cues') ? (
          <ListPreview key={shown?.reading} {...parts} placed={sheet.placed} />
        ) : sheet ? (
          <CuePreview key={shown?.ofFile} {...parts} sheet={sheet} rate={rate} />
        ) : (
          <div className="mx-auto w-full max-w-[620px] px-6 py-10">
            <h1 className="text-[16px] font-bold">Import</h1>
            <p className="mt-1 text-ink-2">
              <b className="text-ink">Cues</b> from CSV, TSV or XLSX as typed elsewhere; from WebVTT or SRT,
              whose lines become dialogue; from an EDL or the markers of a WAV.{' '}
              <b className="text-ink">Sounds on tracks</b> from OTIO, ADL or EDL: their recordings are looked
              for on your shelves. Nothing enters the reel before you have seen it.
            </p>
            <label className="mt-4 inline-flex min-h-7 cursor-pointer items-center rounded-[5px] border border-gate bg-gate px-3 py-1 font-semibold text-on-gate focus-within:outline-2">
              {isLoading ? 'Reading …' : 'Choose a file …'}
              <input type="file" className="sr-only" onChange={(event) => choose(event.target.files?.[0])} />
            </label>
            <span className="ml-3 text-ink-2">or drop it here</span>
            <Refusal text={error && messageOf(error)} className="mt-4" />
          </div>
        )}
      </main>
    </ReelPage>
  )
}

import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import path from 'node:path'
import type { FrameRateId, IncomingSheet, Reel } from '@yodel/core'
import { AppError } from '../errors.js'
import { saveUpload, type Upload } from '../http/upload.js'
import { runApart } from '../processes/apart.js'
import { findListMedia } from './findListMedia.js'
import type { SheetAnswer, SheetOrder } from './readSheetFile.js'

const SECONDS = 30

/**
 * Reads an uploaded file as a sheet of cues (CSV, TSV, XLSX, WebVTT, SRT, EDL, or the markers of a WAV) or as a list of
 * placed sounds (OTIO, ADL, EDL), for which the recordings are looked for. What it is, its content decides, not its name.
 * Nothing of it is kept.
 *
 * @param args.rate - In which it counts, where it does not say.
 * @param args.sheet - Which sheet of a workbook; null for the likeliest.
 * @throws AppError `SHEET_UNREADABLE` with the reason, `UPLOAD_EMPTY`, `UPLOAD_TOO_LARGE`, `TOO_MUCH`
 */
export async function readUpload(
  deps: Parameters<typeof findListMedia>[0],
  upload: Upload,
  { reel, rate, sheet }: { reel: Reel; rate: FrameRateId; sheet: string | null },
): Promise<IncomingSheet> {
  const { name } = upload
  const folder = await mkdtemp(path.join(tmpdir(), 'yodel-sheet-'))
  const file = path.join(folder, 'sheet')
  try {
    const size = await saveUpload(upload, file)
    const order: SheetOrder = { name, file, size, reel, rate, sheet }
    const limits = { seconds: SECONDS, what: `Reading ${name}` }
    const answer = await runApart<SheetAnswer>('sheets/readSheetFile', order, limits)
    if ('refused' in answer) throw new AppError(answer.refused.code, answer.refused.message)
    const { list, ...read } = answer
    return { ...read, placed: list ? { list, ...(await findListMedia(deps, list)) } : null }
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}

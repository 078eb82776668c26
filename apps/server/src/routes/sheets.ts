import { FRAME_RATE_IDS, incomingSheetSchema, plainText, reelOf } from '@yodel/core'
import { z } from 'zod'
import { uploadOf } from '../http/upload.js'
import { loadDocument } from '../reels/reelStore.js'
import { readUpload } from '../sheets/readUpload.js'
import { byId as params, type Routes } from './route.js'

/** Sheets and lists that come in from elsewhere: read and shown, not yet taken over. */
export const sheetRoutes: Routes = (app, { db, files }) => {
  app.post(
    '/api/reels/:id/sheet',
    {
      schema: {
        ...{
          params,
          querystring: z.object({
            rate: z.enum(FRAME_RATE_IDS).optional(),
            sheet: plainText(100).optional(),
          }),
        },
        response: { 200: incomingSheetSchema },
      },
    },
    async (request) => {
      const reel = reelOf(await loadDocument(db, request.params.id))
      const rate = request.query.rate ?? reel.rate
      const sheet = request.query.sheet ?? null
      return readUpload({ db, files }, await uploadOf(request, 'sheet'), { reel, rate, sheet })
    },
  )
}

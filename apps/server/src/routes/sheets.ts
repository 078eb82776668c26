import path from 'node:path'
import { readSheetSchema, reelOf } from '@yodel/core'
import { AppError } from '../errors.js'
import { loadDocument } from '../reels/reelStore.js'
import { readUpload } from '../sheets/readUpload.js'
import { byId as params, type Routes } from './route.js'

/** Sheets that come in from elsewhere: read and shown, not yet taken over. */
export const sheetRoutes: Routes = (app, { db }) => {
  app.post(
    '/api/reels/:id/sheet',
    { schema: { params, response: { 200: readSheetSchema } } },
    async (request) => {
      const reel = reelOf(await loadDocument(db, request.params.id))
      const part = await request.file()
      if (!part) {
        throw new AppError('BAD_REQUEST', 'No sheet came with the upload; choose a file and send it again.')
      }
      return readUpload(path.basename(part.filename || 'sheet'), part.file, reel)
    },
  )
}

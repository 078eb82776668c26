import { readSheetSchema, reelOf } from '@yodel/core'
import { uploadOf } from '../http/upload.js'
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
      return readUpload(await uploadOf(request, 'sheet'), reel)
    },
  )
}

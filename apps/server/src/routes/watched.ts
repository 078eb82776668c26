import { watchedSchema, watchSchema } from '@yodel/core'
import { z } from 'zod'
import { addWatched, listWatched } from '../reels/watched.js'
import { byId as params, type Routes } from './route.js'

/** Which stretches of a reel have been watched, by whom and for what. */
export const watchedRoutes: Routes = (app, { db }) => {
  const response = { 200: z.array(watchedSchema) }
  app.get('/api/reels/:id/watched', { schema: { params, response } }, (request) =>
    listWatched(db, request.params.id),
  )
  app.post('/api/reels/:id/watched', { schema: { params, body: watchSchema, response } }, (request) =>
    addWatched(db, request.params.id, request.person, request.body),
  )
}

import { jobSchema } from '@yodel/core'
import { AppError } from '../errors.js'
import { byId as params, DONE, type Routes } from './route.js'

/** Progress of long work; it can be paused, go on, and be cancelled. */
export const jobRoutes: Routes = (app, { jobs }) => {
  app.get('/api/jobs/:id', { schema: { params, response: { 200: jobSchema } } }, async (request) => {
    const job = await jobs.find(request.params.id)
    if (!job) throw new AppError('NOT_FOUND', `There is no job ${request.params.id}.`)
    const { id, kind, title, state, progress, message, result } = job
    return { id, kind, title, state, progress, message, result }
  })

  app.post('/api/jobs/:id/pause', { schema: { params, response: DONE } }, async (request, reply) => {
    await jobs.pause(request.params.id)
    return reply.code(204).send(null)
  })

  app.post('/api/jobs/:id/resume', { schema: { params, response: DONE } }, async (request, reply) => {
    await jobs.resume(request.params.id)
    return reply.code(204).send(null)
  })

  app.post('/api/jobs/:id/cancel', { schema: { params, response: DONE } }, async (request, reply) => {
    await jobs.cancel(request.params.id)
    return reply.code(204).send(null)
  })
}

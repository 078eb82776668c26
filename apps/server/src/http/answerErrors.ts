import type { FastifyError, FastifyInstance } from 'fastify'
import { isAway } from '../db/isAway.js'
import { AppError, explainDisk } from '../errors.js'

/** One place turns every error into a status and a problem a person can act on. */
export function answerErrors(app: FastifyInstance): void {
  app.setErrorHandler((raw: FastifyError | AppError, request, reply) => {
    const error = explainDisk(raw, 'this') as FastifyError | AppError
    if (error instanceof AppError)
      return reply
        .code(error.status)
        .send({ code: error.code, message: error.message, details: error.details })
    if ('validation' in error && error.validation)
      return reply.code(400).send({ code: 'BAD_REQUEST', message: `${request.url}: ${error.message}` })
    if (isAway(error)) {
      return reply.code(503).send({
        code: 'DATABASE_AWAY',
        message:
          'The database does not answer. What you do is kept in this browser and sent when it is back.',
      })
    }
    const status = error.statusCode ?? 500
    if (status >= 500)
      request.log.error({ err: { message: error.message, stack: error.stack }, url: request.url })
    return reply.code(status).send({
      code: status >= 500 ? 'INTERNAL' : 'BAD_REQUEST',
      message: status >= 500 ? 'The server met an error of its own; it is in its log.' : error.message,
    })
  })
}

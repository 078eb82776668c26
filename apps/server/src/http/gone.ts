import type { FastifyReply } from 'fastify'

/** A signal that whoever asked has gone, perhaps before the answer came: the page asked for something else, or was closed. */
export function gone({ raw }: Pick<FastifyReply, 'raw'>): AbortSignal {
  const controller = new AbortController()
  raw.once('close', () => controller.abort())
  return controller.signal
}

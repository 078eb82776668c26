import type { FastifyInstance } from 'fastify'

declare module 'fastify' {
  interface FastifyRequest {
    /** Name of the person who asks. Until there is sign-in, everybody is the person that the settings name. */
    person: string
  }
}

/** Gives every request its person, in one place. */
export function knowPerson(app: FastifyInstance, name: string): void {
  app.decorateRequest('person', '')
  app.addHook('onRequest', async (request) => {
    request.person = name
  })
}

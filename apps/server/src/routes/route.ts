import { LAST_NUMBER, plainText } from '@yodel/core'
import type {
  FastifyBaseLogger,
  FastifyInstance,
  RawReplyDefaultExpression,
  RawRequestDefaultExpression,
  RawServerDefault,
} from 'fastify'
import type { ZodTypeProvider } from 'fastify-type-provider-zod'
import { z } from 'zod'
import type {} from '../people/person.js'
import type { Services } from '../services.js'

/** An application whose request and reply types come from Zod schemas. */
export type TypedApp = FastifyInstance<
  RawServerDefault,
  RawRequestDefaultExpression,
  RawReplyDefaultExpression,
  FastifyBaseLogger,
  ZodTypeProvider
>

/** Adds the routes of one noun. */
export type Routes = (app: TypedApp, services: Services) => void

/** The header value that has a browser save an answer under a name of any script. */
export const attachment = (name: string): string => `attachment; filename*=UTF-8''${encodeURIComponent(name)}`

/** The parameters of a route about one thing. */
export const byId = z.object({ id: plainText(64) })
/** The number of a change of a reel's log where it stands in an address. */
export const logNumber = z.coerce.number().int().min(0).max(LAST_NUMBER)
/** Ids of sounds, as many as can be handled at once. */
export const soundIds = z.array(plainText(64)).max(20_000)
/** The answers of a route that says nothing but that it is done. */
export const DONE = { 204: z.null() }

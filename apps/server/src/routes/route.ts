import type {
  FastifyBaseLogger,
  FastifyInstance,
  RawReplyDefaultExpression,
  RawRequestDefaultExpression,
  RawServerDefault,
} from 'fastify'
import type { ZodTypeProvider } from 'fastify-type-provider-zod'
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

import { fileURLToPath } from 'node:url'
import helmet from '@fastify/helmet'
import multipart from '@fastify/multipart'
import swagger from '@fastify/swagger'
import Fastify, { type FastifyInstance } from 'fastify'
import {
  jsonSchemaTransform,
  serializerCompiler,
  validatorCompiler,
  type ZodTypeProvider,
} from 'fastify-type-provider-zod'
import { answerErrors } from './http/answerErrors.js'
import { refuseForeigners } from './http/refuseForeigners.js'
import { servePage } from './http/servePage.js'
import { knowPerson } from './people/person.js'
import { folderRoutes } from './routes/folders.js'
import { gatherRoutes } from './routes/gather.js'
import { jobRoutes } from './routes/jobs.js'
import { listRoutes } from './routes/lists.js'
import { kitRoutes } from './routes/kits.js'
import { mediaRoutes } from './routes/media.js'
import { milestoneRoutes } from './routes/milestones.js'
import { pictureRoutes } from './routes/pictures.js'
import { poolRoutes } from './routes/pools.js'
import { reelRoutes } from './routes/reels.js'
import { searchRoutes } from './routes/searches.js'
import { sheetRoutes } from './routes/sheets.js'
import { shelfRoutes } from './routes/shelves.js'
import { soundEventRoutes } from './routes/soundEvents.js'
import { soundRoutes } from './routes/sounds.js'
import { stackRoutes } from './routes/stacks.js'
import { takeRoutes } from './routes/takes.js'
import { turnoverRoutes } from './routes/turnover.js'
import { voiceRoutes } from './routes/voices.js'
import { watchedRoutes } from './routes/watched.js'
import type { Services } from './services.js'

const WEB = fileURLToPath(new URL('../../web/dist', import.meta.url))
const UPLOAD_LIMIT = 64 * 1024 ** 3
const BODY_LIMIT = 32 * 1024 ** 2

const ALL_ROUTES = [
  ...[reelRoutes, milestoneRoutes, watchedRoutes, sheetRoutes],
  ...[soundRoutes, soundEventRoutes, searchRoutes, kitRoutes, poolRoutes, stackRoutes],
  ...[voiceRoutes, takeRoutes],
  ...[shelfRoutes, folderRoutes],
  ...[pictureRoutes, mediaRoutes, jobRoutes, listRoutes, turnoverRoutes, gatherRoutes],
]

/** Builds the HTTP application on its services. It neither listens nor starts jobs. */
export async function buildApp(services: Services, options: { web?: string } = {}): Promise<FastifyInstance> {
  const app = Fastify({
    bodyLimit: BODY_LIMIT,
    logger: { level: 'warn' },
    routerOptions: { maxParamLength: 200 },
  })
  app.setValidatorCompiler(validatorCompiler)
  app.setSerializerCompiler(serializerCompiler)
  await app.register(helmet, {
    contentSecurityPolicy: {
      directives: {
        defaultSrc: ["'self'"],
        // The kernels of the mixer are WebAssembly.
        scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
        imgSrc: ["'self'", 'data:', 'blob:'],
        styleSrc: ["'self'", "'unsafe-inline'"],
        workerSrc: ["'self'", 'blob:'],
        upgradeInsecureRequests: null,
      },
    },
    // A page that stands by itself may share memory with its workers: decoded frames come through it.
    crossOriginEmbedderPolicy: true,
    hsts: false,
  })
  await app.register(multipart, { limits: { fileSize: UPLOAD_LIMIT, files: 1, fields: 4 } })
  await app.register(swagger, {
    openapi: { info: { title: 'Yodel', version: '0.1.0' } },
    transform: jsonSchemaTransform,
  })
  await servePage(app, options.web ?? WEB)
  refuseForeigners(app, services.settings)
  knowPerson(app, services.settings.user)
  answerErrors(app)

  const typed = app.withTypeProvider<ZodTypeProvider>()
  await app.register(async (scope) => {
    for (const routes of ALL_ROUTES) {
      routes(scope.withTypeProvider<ZodTypeProvider>(), services)
    }
  })
  typed.get('/api/docs/json', { schema: { hide: true } }, () => app.swagger())
  return app
}

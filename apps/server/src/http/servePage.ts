import path from 'node:path'
import fastifyStatic from '@fastify/static'
import type { FastifyInstance } from 'fastify'

/** The pages of a reel: all of them begin with the reel. */
const REEL_PAGE = /^\/reels\/([\w-]+)(?:[/?]|$)/

/**
 * Serves the application's page and what belongs to it from a folder; every address that is no file and not of the API is one of its
 * pages. What lies in `assets/` bears a hash of its content in its name and is kept by browsers for good; the rest they ask for anew
 * each time, so that nobody works with an old page. A page of a reel tells the browser to fetch the reel while it reads the program.
 */
export async function servePage(app: FastifyInstance, root: string): Promise<void> {
  const own = path.resolve(root) + path.sep
  const assets = path.join(own, 'assets') + path.sep
  await app.register(fastifyStatic, {
    ...{ root, index: 'index.html', cacheControl: false },
    setHeaders: (reply, file) => {
      // Routes that send files from elsewhere say themselves how long these keep.
      if (!file.startsWith(own)) return
      const forGood = file.startsWith(assets)
      void reply.header('cache-control', forGood ? 'public, max-age=31536000, immutable' : 'no-cache')
    },
  })
  app.setNotFoundHandler((request, reply) => {
    if (request.url.startsWith('/api/') || path.extname(request.url.split('?')[0] ?? '') !== '') {
      return reply
        .code(404)
        .send({ code: 'NOT_FOUND', message: `There is nothing at ${request.method} ${request.url}.` })
    }
    const [, reel] = REEL_PAGE.exec(request.url) ?? []
    if (reel) void reply.header('link', `</api/reels/${reel}>; rel=preload; as=fetch; crossorigin`)
    return reply.sendFile('index.html')
  })
}

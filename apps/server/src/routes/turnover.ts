import { randomUUID } from 'node:crypto'
import path from 'node:path'
import {
  changesSince,
  documentOf,
  keptFileSchema,
  keptRecipeSchema,
  keptTurnoverSchema,
  nameByRule,
  plainText,
  recipeSchema,
  recordsOf,
  reelOf,
  SHIPPED_RECIPES,
  turnoverFactsSchema,
  type KeptRecipe,
} from '@yodel/core'
import { z } from 'zod'
import { RecipeEntity, ReelEntity } from '../db/entities.js'
import { AppError } from '../errors.js'
import { saveUpload, uploadOf } from '../http/upload.js'
import { allowedPath, isFolder } from '../media/paths.js'
import { reelAt } from '../reels/milestones.js'
import { loadDocument } from '../reels/reelStore.js'
import { bounceFile } from '../turnover/audio/bounceReel.js'
import { gatherFacts } from '../turnover/gatherFacts.js'
import { packageName } from '../turnover/kept/copyTurnover.js'
import { clearTurnover } from '../turnover/kept/clearTurnover.js'
import { sendZip } from '../turnover/kept/sendZip.js'
import { writePaper } from '../turnover/make/writeLists.js'
import {
  asKept,
  listTurnovers,
  oneTurnover,
  wholeTurnover,
  turnoverFolder,
} from '../turnover/kept/turnovers.js'
import { attachment, byId as params, DONE, type Routes } from './route.js'

const job = { 202: z.object({ jobId: z.string() }) }
const bounceBody = z.object({ recipe: recipeSchema.optional() }).nullish()
const folderBody = z.object({ path: plainText(4000).min(1) })
const turnoverBody = z.object({ recipe: recipeSchema, name: plainText(200).min(1) })
const filePath = params.extend({ '*': z.string() })

/** What is handed over: findings' facts, recipes, the mix, turnovers that were made, and packages that come in. */
export const turnoverRoutes: Routes = (app, services) => {
  const { db, media, jobs, clock, roots } = services

  /** The recipes of a reel's show, those that ship first. */
  const recipesOf = async (reelId: string): Promise<KeptRecipe[]> => {
    const { showId } = await db.getRepository(ReelEntity).findOneByOrFail({ id: reelId })
    const own = await db.getRepository(RecipeEntity).find({ where: { showId } })
    const kept = own.map(({ id, recipe }) => ({ ...recipe, id, ships: false }))
    return [...SHIPPED_RECIPES, ...kept.sort((a, b) => (a.name < b.name ? -1 : 1))]
  }

  app.get(
    '/api/reels/:id/facts',
    {
      schema: {
        ...{ params, querystring: z.object({ recipe: plainText(64).optional() }) },
        response: { 200: turnoverFactsSchema },
      },
    },
    async ({ params: { id }, query }) => {
      const doc = await loadDocument(db, id)
      const recipe =
        query.recipe === undefined ? undefined : (await recipesOf(id)).find((one) => one.id === query.recipe)
      return gatherFacts({ db, media }, doc, recipe ?? null)
    },
  )

  app.get(
    '/api/reels/:id/recipes',
    { schema: { params, response: { 200: z.array(keptRecipeSchema) } } },
    async ({ params: { id } }) => {
      await loadDocument(db, id)
      return recipesOf(id)
    },
  )

  app.post(
    '/api/reels/:id/recipes',
    { schema: { params, body: recipeSchema, response: { 201: keptRecipeSchema } } },
    async ({ params: { id }, body: recipe }, reply) => {
      await loadDocument(db, id)
      const { showId } = await db.getRepository(ReelEntity).findOneByOrFail({ id })
      const row = { id: randomUUID(), showId, recipe }
      await db.getRepository(RecipeEntity).insert(row as never)
      return reply.code(201).send({ ...recipe, id: row.id, ships: false })
    },
  )

  app.put(
    '/api/recipes/:id',
    { schema: { params, body: recipeSchema, response: DONE } },
    async ({ params: { id }, body: recipe }, reply) => {
      const { affected } = await db.getRepository(RecipeEntity).update({ id }, { recipe } as never)
      if (!affected)
        throw new AppError(
          'NOT_FOUND',
          'That recipe is not there (any more), or ships with Yodel; save it as a new one.',
        )
      return reply.code(204).send(null)
    },
  )

  app.delete(
    '/api/recipes/:id',
    { schema: { params, response: DONE } },
    async ({ params: { id } }, reply) => {
      await db.getRepository(RecipeEntity).delete({ id })
      return reply.code(204).send(null)
    },
  )

  app.post(
    '/api/reels/:id/bounce',
    { schema: { params, body: bounceBody, response: job } },
    async ({ params: { id }, body }, reply) => {
      const { name } = reelOf(await loadDocument(db, id))
      const payload = { reelId: id, recipe: body?.recipe }
      return reply.code(202).send({ jobId: await jobs.add('bounce', `Bouncing ${name}`, payload) })
    },
  )

  app.get('/api/bounces/:id', { schema: { params: z.object({ id: z.uuid() }) } }, async (request, reply) => {
    const done = await jobs.find(request.params.id)
    if (done?.kind !== 'bounce' || done.state !== 'done') {
      throw new AppError('NOT_FOUND', 'That mix is not there (any more); bounce the reel again.')
    }
    const file = await bounceFile(media, done.id)
    return reply
      .type('audio/wav')
      .header('content-disposition', attachment(String(done.result?.['name'] ?? 'mix.wav')))
      .sendFile(path.basename(file), path.dirname(file))
  })

  app.get(
    '/api/reels/:id/turnovers',
    { schema: { params, response: { 200: z.array(keptTurnoverSchema) } } },
    async ({ params: { id } }) => {
      await loadDocument(db, id)
      return listTurnovers(db, id)
    },
  )

  app.post(
    '/api/reels/:id/turnovers',
    { schema: { params, body: turnoverBody, response: job } },
    async ({ params: { id }, body: { recipe, name }, person }, reply) => {
      const reel = reelOf(await loadDocument(db, id))
      const payload = { reelId: id, recipe, name, by: person }
      return reply.code(202).send({ jobId: await jobs.add('turnover', `Turnover of ${reel.name}`, payload) })
    },
  )

  app.get(
    '/api/turnovers/:id',
    { schema: { params, response: { 200: keptTurnoverSchema.extend({ files: z.array(keptFileSchema) }) } } },
    async ({ params: { id } }) => {
      const row = await oneTurnover(db, id)
      return { ...asKept(row), files: row.files }
    },
  )

  app.get(
    '/api/turnovers/:id/files/*',
    { schema: { params: filePath } },
    async ({ params: { id, '*': inside } }, reply) => {
      const { files } = await wholeTurnover(db, id)
      const file = files.find((one) => one.path === inside)
      if (!file) throw new AppError('NOT_FOUND', `This turnover has no file ${inside}.`)
      return reply
        .header('content-disposition', attachment(path.basename(inside)))
        .sendFile(inside, await turnoverFolder(media, id))
    },
  )

  app.delete(
    '/api/turnovers/:id/files',
    { schema: { params, response: DONE } },
    async ({ params: { id } }, reply) => {
      await clearTurnover({ db, media }, id, clock())
      return reply.code(204).send(null)
    },
  )

  app.get('/api/turnovers/:id/package.zip', { schema: { params } }, async (request, reply) => {
    const row = await wholeTurnover(db, request.params.id)
    const name = `${await packageName(db, row)}.zip`
    return sendZip(request, reply, row, await turnoverFolder(media, row.id), name)
  })

  app.post(
    '/api/turnovers/:id/copies',
    { schema: { params, body: folderBody, response: job } },
    async ({ params: { id }, body }, reply) => {
      const { name } = await wholeTurnover(db, id)
      const folder = await folderAt(body.path)
      const jobId = await jobs.add('deliver', `Copying turnover ${name}`, { turnoverId: id, folder })
      return reply.code(202).send({ jobId })
    },
  )

  app.get('/api/turnovers/:id/since.pdf', { schema: { params } }, async ({ params: { id } }, reply) => {
    const { reelId, seq, number, name } = await oneTurnover(db, id)
    const doc = await loadDocument(db, reelId)
    const then = documentOf((await reelAt(db, reelId, seq)).records)
    const date = clock().toISOString().slice(0, 10)
    const facts = { turnover: `turnover ${number}, ${name}`, date, lines: changesSince(then, doc) }
    const pdf = await writePaper({ records: recordsOf(doc), kind: 'since', facts })
    const file = `${nameByRule(reelOf(doc), `changes since turnover ${number}`, date)}.pdf`
    return reply.type('application/pdf').header('content-disposition', attachment(file)).send(pdf)
  })

  app.post('/api/packages', { schema: { response: job } }, async (request, reply) => {
    const upload = await uploadOf(request, 'package')
    const file = path.join(await media.folder('incoming'), `${randomUUID()}.zip`)
    await saveUpload(upload, file)
    const payload = { file, name: upload.name, by: request.person }
    return reply.code(202).send({ jobId: await jobs.add('open', `Opening ${upload.name}`, payload) })
  })

  /** A package that lies on a disk of the server's, as a folder or as a ZIP. */
  app.post(
    '/api/packages/there',
    { schema: { body: folderBody, response: job } },
    async ({ body, person }, reply) => {
      const file = await allowedPath(body.path, roots.all)
      const payload = { file, name: path.basename(file), by: person }
      return reply.code(202).send({ jobId: await jobs.add('open', `Opening ${payload.name}`, payload) })
    },
  )

  /** A folder that may be written into. @throws AppError `PATH_MISSING`, `PATH_OUTSIDE_ROOTS` */
  async function folderAt(wanted: string): Promise<string> {
    const folder = await allowedPath(wanted, roots.all)
    if (await isFolder(folder)) return folder
    throw new AppError('PATH_MISSING', `${wanted} is a file; choose the folder that the copy goes into.`)
  }
}

import { readdir } from 'node:fs/promises'
import { homedir } from 'node:os'
import path from 'node:path'
import { folderSchema, plainText, rootsSchema } from '@yodel/core'
import { z } from 'zod'
import { AppError } from '../errors.js'
import { allowedPath } from '../media/paths.js'
import type { Routes } from './route.js'

/** The places that may be read and are there, by their names; the folder of an empty mount is no place. */
async function placesOf(roots: readonly string[]): Promise<{ name: string; path: string }[]> {
  const places = await Promise.all(
    roots.map(async (root) => {
      const entries = await readdir(root).catch(() => [])
      return entries.length === 0 ? [] : [{ name: root === homedir() ? `Home (${root})` : root, path: root }]
    }),
  )
  return places.flat()
}

/** The folders of the server's disk from which shelves and movies may be picked. */
export const folderRoutes: Routes = (app, { roots }) => {
  const said = (ip: string) => ({ own: [...roots.own], mayChange: roots.mayBeChangedBy(ip) })
  const orRefuse = (ip: string): void => {
    if (!roots.mayBeChangedBy(ip))
      throw new AppError(
        'PATH_OUTSIDE_ROOTS',
        'Which folders may be read is said at the server’s own machine, where YODEL_SOUND_ROOTS does not name them.',
      )
  }
  const body = z.object({ path: plainText(4000).min(1) })

  app.get('/api/roots', { schema: { response: { 200: rootsSchema } } }, ({ ip }) => Promise.resolve(said(ip)))
  app.post('/api/roots', { schema: { body, response: { 200: rootsSchema } } }, async (request) => {
    orRefuse(request.ip)
    await roots.add(request.body.path)
    return said(request.ip)
  })
  app.delete('/api/roots', { schema: { body, response: { 200: rootsSchema } } }, async (request) => {
    orRefuse(request.ip)
    await roots.remove(request.body.path)
    return said(request.ip)
  })

  app.get(
    '/api/folders',
    {
      schema: {
        querystring: z.object({ path: plainText(4000).default('') }),
        response: { 200: folderSchema },
      },
    },
    async (request) => {
      if (request.query.path === '')
        return {
          path: '',
          parent: null,
          folders: await placesOf(roots.all),
        }
      const folder = await allowedPath(request.query.path, roots.all)
      const entries = await readdir(folder, { withFileTypes: true }).catch(() => null)
      if (!entries)
        throw new AppError(
          'PATH_MISSING',
          `${folder} can't be opened. Check that it is a folder and that Yodel may read it.`,
        )
      const parent = await allowedPath(path.dirname(folder), roots.all).catch(() => '')
      const folders = entries
        .filter((entry) => entry.isDirectory() && !entry.name.startsWith('.'))
        .map((entry) => ({ name: entry.name, path: path.join(folder, entry.name) }))
      return {
        path: folder,
        parent,
        folders: folders.sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true })),
      }
    },
  )
}

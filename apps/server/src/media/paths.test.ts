import { mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { allowedPath, isFolder } from './paths.js'

let base: string
let root: string
beforeAll(() => {
  base = mkdtempSync(path.join(tmpdir(), 'yodel-paths-'))
  root = path.join(base, 'sounds')
  mkdirSync(path.join(root, 'inside'), { recursive: true })
  mkdirSync(path.join(base, 'sounds-too'))
  writeFileSync(path.join(root, 'a.wav'), '')
  writeFileSync(path.join(base, 'secret'), '')
  symlinkSync(path.join(base, 'secret'), path.join(root, 'link'))
  symlinkSync(path.join(root, 'inside'), path.join(root, 'inner'))
  symlinkSync(base, path.join(root, 'out'))
  symlinkSync('loop', path.join(root, 'loop'))
})
afterAll(() => rmSync(base, { recursive: true }))

describe('a path that somebody typed', () => {
  it.each(['', 'a.wav', 'inside/../a.wav', 'inner'])('may lead to %j in a root', async (inside) => {
    const real = await allowedPath(path.join(root, inside), [root])
    expect(real.startsWith(root)).toBe(true)
  })

  it.each([
    ['out by dots', '../secret', 'PATH_OUTSIDE_ROOTS'],
    ['out by a link', 'link', 'PATH_OUTSIDE_ROOTS'],
    ['to a folder whose name only begins alike', '../sounds-too', 'PATH_OUTSIDE_ROOTS'],
    ['to nothing', 'nowhere', 'PATH_MISSING'],
    ['round in a circle', 'loop', 'PATH_MISSING'],
    ['out to nothing', '../nowhere', 'PATH_OUTSIDE_ROOTS'],
    ['out to nothing by a link', 'out/nowhere/at/all', 'PATH_OUTSIDE_ROOTS'],
    ['out to a file by a link', 'out/secret', 'PATH_OUTSIDE_ROOTS'],
  ])('may not lead %s', async (_, wanted, code) => {
    await expect(allowedPath(`${root}/${wanted}`, [root])).rejects.toMatchObject({ code })
  })

  it('must be a whole path without a NUL', async () => {
    await expect(allowedPath('sounds', [root])).rejects.toMatchObject({ code: 'PATH_MISSING' })
    await expect(allowedPath(`${root}/a\0.wav`, [root])).rejects.toMatchObject({ code: 'PATH_MISSING' })
  })

  it('is refused with the roots that there are, also when one of them is away', async () => {
    await expect(allowedPath(base, ['/nowhere', root])).rejects.toThrow(`(/nowhere, ${root})`)
    await expect(allowedPath(root, [])).rejects.toThrow('(none)')
    expect(await allowedPath(root, ['/nowhere', root])).toBe(root)
    await expect(allowedPath('/nowhere/a.wav', ['/nowhere'])).rejects.toMatchObject({ code: 'PATH_MISSING' })
  })

  it('is a folder, a file or nothing', async () => {
    expect(await Promise.all([root, path.join(root, 'a.wav'), '/nowhere'].map(isFolder))).toEqual([
      true,
      false,
      false,
    ])
  })
})

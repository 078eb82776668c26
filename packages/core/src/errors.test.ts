import { readdirSync, readFileSync, statSync } from 'node:fs'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { describe, expect, it } from 'vitest'
import { assertNever, CORE_ERROR_CODES, CoreError, expectOk, ok, refuse } from './errors.js'

const here = path.dirname(fileURLToPath(import.meta.url))
const sources = (folder: string): string[] =>
  readdirSync(folder).flatMap((name) => {
    const file = path.join(folder, name)
    if (statSync(file).isDirectory()) return sources(file)
    return name.endsWith('.ts') && !name.endsWith('.test.ts') && file !== path.join(here, 'errors.ts')
      ? [readFileSync(file, 'utf8')]
      : []
  })
const code = sources(here).join('\n')

describe('the table of refusals', () => {
  it.each(CORE_ERROR_CODES)('uses %s somewhere', (name) => {
    expect(code).toContain(`'${name}'`)
  })

  it.each(CORE_ERROR_CODES)('says of %s where, the rule, and what was found', (name) => {
    const { message } = refuse(name, 'Lever', 'frame 7')
    expect(message).toMatch(/^Lever: [a-z].+ \(frame 7\)\.$/)
  })

  it('leaves out what was found where there is nothing to say', () => {
    expect(refuse('CORE_LOCKED', 'Lever').message).toBe('Lever: it is locked; unlock it first.')
  })

  it('is thrown by who has ruled it out', () => {
    expect(expectOk(ok(7))).toBe(7)
    const thrown = (): unknown => expectOk(refuse('CORE_NO_TRACK', 'keep', 't9'))
    expect(thrown).toThrow(CoreError)
    expect(thrown).toThrow('keep: the track is not in the reel (t9).')
    expect(() => assertNever('odd' as never)).toThrow('unexpected "odd"')
  })
})

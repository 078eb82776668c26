import { homedir } from 'node:os'
import { describe, expect, it } from 'vitest'
import { readSettings } from './settings.js'

const url = 'postgres://u:p@127.0.0.1:5432/x'
const read = (env: Record<string, string>) =>
  readSettings({ YODEL_DATABASE_URL: url, YODEL_DATA_DIR: '/d', ...env })

describe('settings', () => {
  it('have defaults for all but the database', () => {
    expect(read({})).toMatchObject({
      ...{ host: '127.0.0.1', port: 4750, dataDir: '/d', databaseUrl: url, demo: true },
      // On one's own machine one's home and what is mounted.
      soundRoots: [homedir(), '/media', '/run/media', '/mnt', '/Volumes', '/d/demo'],
      ...{ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' },
    })
    expect(read({}).user).not.toBe('')
  })

  it('take an empty word for none', () => {
    expect(read({ YODEL_PORT: '', YODEL_HOST: '' })).toMatchObject({ port: 4750, host: '127.0.0.1' })
  })

  it('are what is said', () => {
    const env = {
      ...{ YODEL_HOST: '0.0.0.0', YODEL_OPEN: '1', YODEL_PORT: '4760', YODEL_DEMO: '0', YODEL_USER: 'Ines' },
      ...{ YODEL_FFMPEG_DIR: '/opt/ff', YODEL_SOUND_ROOTS: '/a:/b/../c:' },
    }
    expect(read(env)).toMatchObject({
      ...{ host: '0.0.0.0', port: 4760, demo: false, user: 'Ines' },
      ...{ ffmpeg: '/opt/ff/ffmpeg', ffprobe: '/opt/ff/ffprobe', soundRoots: ['/a', '/c', '/d/demo'] },
    })
  })

  it('can’t be changed afterwards', () => {
    expect(() => Object.assign(read({}), { port: 1 })).toThrow(TypeError)
  })

  it.each([
    ['no database', { YODEL_DATABASE_URL: '' }, /YODEL_DATABASE_URL/],
    ['another kind of database', { YODEL_DATABASE_URL: 'mysql://x' }, /must look like postgres:\/\//],
    [
      'an open address without a word',
      { YODEL_HOST: '0.0.0.0' },
      /everybody in this network.*set YODEL_OPEN=1/,
    ],
    ['an address that is none', { YODEL_PUBLIC_URL: 'yodel' }, /YODEL_PUBLIC_URL: it must look like/],
    ['a port in words', { YODEL_PORT: 'many' }, /YODEL_PORT must be a number/],
    ['a port beyond all ports', { YODEL_PORT: '70000' }, /YODEL_PORT/],
    ['half a port', { YODEL_PORT: '47.5' }, /YODEL_PORT/],
    ['a demo in words', { YODEL_DEMO: 'yes' }, /YODEL_DEMO must be 0, 1 or crowd/],
    ['a name too long to sign with', { YODEL_USER: 'x'.repeat(61) }, /YODEL_USER/],
  ])('refuse %s, by name', (_, env, says) => {
    expect(() => read(env)).toThrow(says)
  })

  it('name every setting that is wrong at once', () => {
    expect(() => read({ YODEL_PORT: 'many', YODEL_DEMO: 'yes', YODEL_DATABASE_URL: 'x' })).toThrow(
      /YODEL_PORT[\s\S]*YODEL_DATABASE_URL[\s\S]*YODEL_DEMO/,
    )
  })
})

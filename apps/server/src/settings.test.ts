import { describe, expect, it } from 'vitest'
import { readSettings } from './settings.js'

const url = 'postgres://u:p@127.0.0.1:5432/x'

describe('settings', () => {
  it('have defaults for all but the database', () => {
    expect(readSettings({ YODEL_DATABASE_URL: url, YODEL_DATA_DIR: '/d' })).toMatchObject({
      host: '127.0.0.1',
      port: 4750,
      demo: true,
      soundRoots: ['/d/demo'],
    })
  })
  it('name every setting that is wrong', () => {
    expect(() =>
      readSettings({ YODEL_PORT: 'many', YODEL_DEMO: 'yes', YODEL_DATABASE_URL: 'mysql://x' }),
    ).toThrow(/YODEL_PORT[\s\S]*YODEL_DATABASE_URL[\s\S]*YODEL_DEMO/)
  })
})

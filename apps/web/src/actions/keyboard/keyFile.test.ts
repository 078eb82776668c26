import { expect, it } from 'vitest'
import { readKeyFile, writeKeyFile } from './keyFile.js'

const known = new Set(['split', 'mute'])

it('keys of one’s own come back from their file, without those that nobody knows', () => {
  const file = writeKeyFile({ split: ['Alt x'], mute: [], gone: ['q'] })
  expect(readKeyFile(file, known)).toEqual({ own: { split: ['Alt x'], mute: [] }, left: 1 })
})

it.each(['', '{}', '[1]', 'nothing', '{"kind":"yodel keys","version":1,"keys":{"split":["Shift Alt x y"]}}'])(
  'what is no file of keys is refused: %s',
  (text) => expect(readKeyFile(text, known)).toBeNull(),
)

import { describe, expect, it } from 'vitest'
import { Parts } from './Parts.js'

describe('parts of the page', () => {
  it('do at once what they are asked, while they are there', () => {
    const parts = new Parts()
    let asked = 0
    const end = parts.offer('search', { focus: () => void asked++ })
    parts.ask('search', (search) => search.focus())
    expect(asked).toBe(1)
    end()
    expect(parts.get('search')).toBeUndefined()
  })

  it('do what was asked last as soon as they come, once', () => {
    const parts = new Parts()
    const typed: string[] = []
    parts.ask('timecode', () => typed.push('first'))
    parts.ask('timecode', (timecode) => timecode.type())
    parts.offer('timecode', { type: () => typed.push('typed') })
    parts.offer('timecode', { type: () => typed.push('again') })
    expect(typed).toEqual(['typed'])
  })

  it('may be taken over, and going takes back only one’s own offer', () => {
    const parts = new Parts()
    const first = { focus: () => undefined }
    const second = { focus: () => undefined }
    const endFirst = parts.offer('search', first)
    parts.offer('search', second)
    endFirst()
    expect(parts.get('search')).toBe(second)
  })
})

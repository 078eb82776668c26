import { describe, expect, it } from 'vitest'
import { renderChapter } from './renderChapter.js'
import { searchGuide } from './searchGuide.js'

const CHAPTERS = [
  {
    name: 'one',
    title: 'One',
    text: '# One\n\nPress `Alt X` to **swap** a sound.\n\n## Edges\n\nDrag its [edge](two.md).',
  },
  { name: 'two', title: 'Two', text: '# Two\n\nSwapping `length<2` is another matter.' },
]

describe('the guide', () => {
  const html = renderChapter((CHAPTERS[0] as { text: string }).text + '\n\n![It](a.png) `a<b`', {
    key: (written) => (written === 'Alt X' ? 'Option X' : null),
    picture: (path) => `/assets/${path}`,
    link: (path) => `/guide/${path}`,
  })
  it('calls keys as they are written here, and has its pictures and links where they are', () => {
    expect(html).toContain('<kbd>Option X</kbd>')
    expect(html).toContain('<code>a&lt;b</code>')
    expect(html).toContain('src="/assets/a.png"')
    expect(html).toContain('<a href="/guide/two.md">edge</a>')
    expect(html).toContain('<h2 id="edges">Edges</h2>')
  })
  it('is found by the beginnings of words, wherever each stands, and not by their middles', () => {
    expect(searchGuide(CHAPTERS, 'swap').map(({ chapter }) => chapter)).toEqual(['one', 'two'])
    expect(searchGuide(CHAPTERS, 'edge drag')).toMatchObject([{ heading: 'Edges', anchor: 'edges' }])
    expect(searchGuide(CHAPTERS, 'swap edge')).toEqual([])
    expect(searchGuide(CHAPTERS, 'wap')).toEqual([])
    expect(searchGuide(CHAPTERS, 'length<2')[0]?.around).toContain('Swapping length<2')
    expect(searchGuide(CHAPTERS, ' ')).toEqual([])
  })
})

import { readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import { expect, it } from 'vitest'

const css = readFileSync(fileURLToPath(new URL('../index.css', import.meta.url)), 'utf8')
const THEMES = { day: /:root \{([^}]*)\}/, night: /\[data-theme='night'\] \{([^}]*)\}/ } as const

/** The colours of a theme by name, as 0 to 255. */
function coloursOf(theme: keyof typeof THEMES): Map<string, readonly number[]> {
  const block = THEMES[theme].exec(css)?.[1] ?? ''
  return new Map(
    [...block.matchAll(/--([\w-]+): #([0-9a-f]{6})/g)].map(([, name, hex]) => [
      name ?? '',
      [0, 2, 4].map((at) => parseInt((hex ?? '').slice(at, at + 2), 16)),
    ]),
  )
}

/** Contrast of two colours by the formula of WCAG 2.2 (relative luminance, clause "contrast ratio"). */
function contrast(a: readonly number[], b: readonly number[]): number {
  const luminance = (colour: readonly number[]): number => {
    const [r, g, b] = colour.map((value) =>
      value / 255 <= 0.04045 ? value / 255 / 12.92 : ((value / 255 + 0.055) / 1.055) ** 2.4,
    ) as [number, number, number]
    return 0.2126 * r + 0.7152 * g + 0.0722 * b
  }
  const [low, high] = [luminance(a), luminance(b)].sort((x, y) => x - y) as [number, number]
  return (high + 0.05) / (low + 0.05)
}

it.each(['day', 'night'] as const)(
  'can be read on every ground by %s: 4.5 to 1 at least (WCAG 2.2 AA)',
  (theme) => {
    const colours = coloursOf(theme)
    const texts = [
      'ink',
      'ink-2',
      'ink-3',
      'gate',
      'fx',
      'fol',
      'bg',
      'dx',
      'mx',
      'dsg',
      'slate',
      'moss',
      'wine',
      'umber',
    ]
    const tooFaint = texts.flatMap((text) =>
      ['paper', 'paper-2', 'card'].flatMap((ground) => {
        const ratio = contrast(colours.get(text)!, colours.get(ground)!)
        return ratio < 4.5 ? [`${text} on ${ground}: ${ratio.toFixed(2)}`] : []
      }),
    )
    expect(tooFaint).toEqual([])
    expect(contrast(colours.get('on-gate')!, colours.get('gate')!)).toBeGreaterThanOrEqual(4.5)
  },
)

import { describe, expect, it } from 'vitest'
import { planReel } from '../audio/plan.js'
import type { Recipe } from '../contract/recipes.js'
import { recipeSchema } from '../contract/recipes.js'
import { documentOf, recordsOf, type ReelDocument } from '../reel/document.js'
import type { ReelRecord } from '../reel/records.js'
import { SAMPLE_RATE } from '../time/units.js'
import { testClip, testTrack } from '../test/records.js'
import { testReel } from '../test/testReel.js'
import { audioFiles } from './audio/audioFiles.js'
import { twoPopOf } from './audio/pop.js'
import { burntCues } from './burntCues.js'
import { aimsOf, planFor, SHIPPED_RECIPES } from './recipes.js'
import { reportSections, type ReportFacts } from './report.js'
import { changesSince } from './since.js'
import { spotCue } from '../edits/spotCue.js'
import { after } from '../test/after.js'

const [TO_MIX, REVIEW] = SHIPPED_RECIPES as unknown as [Recipe, Recipe]
const reel = (...records: ReelRecord[]): ReelDocument =>
  documentOf([...recordsOf(testReel({ length: 4800, programme: 192 })), ...records])
const two = reel(
  testTrack('t1', { name: 'Doors', order: 'a' }),
  testTrack('t2', { name: 'doors', order: 'b', category: 'FOL' }),
  testTrack('t3', { name: 'Empty', order: 'c', category: 'BG' }),
  testClip('a', 't1', { start: 48_000 }),
  testClip('b', 't2', { start: 96_000, name: 'Boots' }),
)

describe('recipes', () => {
  it('that ship are valid, have names of their own, and ask what they say', () => {
    for (const recipe of SHIPPED_RECIPES)
      expect(recipeSchema.parse(recipe)).toMatchObject({ name: recipe.name })
    expect(new Set(SHIPPED_RECIPES.map(({ id }) => id)).size).toBe(3)
    expect(aimsOf(TO_MIX)).toEqual({ twoPop: true, truePeak: -1, loudness: null, handles: 2 })
    expect(aimsOf({ ...TO_MIX, from: 'programme' }).twoPop).toBe(false)
    // EBU R 128: -23 LUFS.
    expect(aimsOf(REVIEW).loudness?.target).toBe(-23)
  })

  it('name the mix, a stem for each category that sounds and a file for each such track, no two alike', () => {
    const files = audioFiles(two, planReel(two), { ...TO_MIX, nameRule: '{reel}_{function}' }, '2031-05-09')
    expect(files.map(({ title, name }) => [title, name])).toEqual([
      ['Stereo mix', 'Reel-1_mix'],
      ['Stem Hard effects', 'Reel-1_stem-FX'],
      ['Stem Foley', 'Reel-1_stem-FOL'],
      ['Doors', 'Reel-1_FX-Doors'],
      ['doors', 'Reel-1_FOL-doors'],
    ])
    const same = audioFiles(two, planReel(two), { ...TO_MIX, nameRule: 'always' }, '')
    expect(same.map(({ name }) => name)).toEqual(['always', 'always_2', 'always_3', 'always_4', 'always_5'])
  })

  it('take the treatment out that they don’t want, and leave the rest', () => {
    const insert = (id: string, on: string): ReelRecord =>
      ({ kind: 'insert', id, on, order: 'a', bypass: false, effect: 'limiter', settings: {} }) as never
    const doc = reel(
      ...recordsOf(two).slice(1),
      insert('i1', 't1'),
      insert('i2', 'stem:FX'),
      insert('i3', 'whole'),
    )
    const plan = planReel(doc)
    const left = (treatment: Recipe['treatment']): number[] => {
      const { strips, stems, whole } = planFor(plan, treatment)
      return [strips.flatMap(({ inserts }) => inserts).length, Object.keys(stems).length, whole.length]
    }
    expect(left({ tracks: true, stems: true, whole: true })).toEqual([1, 1, 1])
    expect(left({ tracks: false, stems: true, whole: false })).toEqual([0, 1, 0])
    expect(left({ tracks: true, stems: false, whole: true })).toEqual([1, 0, 1])
  })
})

describe('the 2-pop', () => {
  // Common practice: 1 kHz, one frame, two seconds before the programme, at -20 dBFS.
  it('is one frame of 1 kHz two seconds before the programme', () => {
    const pop = twoPopOf({ rate: '25', programme: 200 as never })!
    expect([pop.at, pop.samples.length]).toEqual([150 * 1920, 1920])
    expect(Math.max(...pop.samples)).toBeCloseTo(0.1, 3)
    const rising = pop.samples.findIndex(
      (value, i) => i > 0 && value > -1e-9 && (pop.samples[i - 1] as number) < -1e-9,
    )
    expect(rising).toBe(SAMPLE_RATE / 1000)
    expect(twoPopOf({ rate: '25', programme: 49 as never })).toBeNull()
  })
})

describe('what has changed since', () => {
  const changed = (...fields: Parameters<typeof testClip>[2][]): string[] => {
    const [a] = fields
    const now = reel(
      ...recordsOf(two).slice(1, 4),
      testClip('a', 't1', { start: 48_000, ...a }),
      two.clip.get('b')!,
    )
    return changesSince(two, now).map(({ kind, what, name, text }) => `${kind} ${what} ${name}: ${text}`)
  }
  it.each([
    [{}, []],
    [{ start: 72_000 }, ['moved sound Lever: moved by +0:12']],
    [{ start: 47_990 }, ['moved sound Lever: moved by −10 samples']],
    [{ trackId: 't2' }, ['moved sound Lever: to doors']],
    [{ start: 50_000, offset: 2000, length: 46_000 }, ['moved sound Lever: begins +0:01']],
    [{ length: 96_000, recorded: 96_000 }, ['changed sound Lever: ends +1:00']],
    [{ soundId: 'x', name: 'Bell' }, ['swapped sound Bell: in the place of Lever']],
    [{ gain: -3, fadeIn: 4000 }, ['changed sound Lever: level 0.0 dB to −3.0 dB, fade in 0:02']],
    [{ mute: true, reverse: true }, ['changed sound Lever: backwards, muted']],
  ] as const)('of a sound with %j is told: %j', (fields, lines) => {
    expect(changed(fields)).toEqual(lines)
  })

  it('of what came, went, and is of the reel as a whole is told first, then by time', () => {
    const now = after(
      reel(
        testTrack('t1', { name: 'Doors', order: 'a', level: -6, mute: true }),
        testTrack('t4', { name: 'New', category: 'BG' }),
        testClip('a', 't1', { start: 48_000 }),
        testClip('z', 't4', { start: 24_000, name: 'Wind' }),
      ),
      spotCue(reel(), { id: 'q', category: 'FX', in: 10, out: 20, words: 'Click' }),
    )
    expect(changesSince(two, now).map(({ kind, name, text }) => `${kind} ${name}: ${text}`)).toEqual([
      'changed Doors: level 0.0 dB to −6.0 dB, muted',
      'gone doors: track taken away',
      'gone Empty: track taken away',
      'come New: new track, Backgrounds',
      'come FX 001 Click: new',
      'come Wind: new, on New',
      'gone Boots: taken away, was on doors',
    ])
    expect(changesSince(now, now)).toEqual([])
  })
})

describe('the report', () => {
  const facts: ReportFacts = {
    ...{
      name: 'Pre-dub',
      by: 'Mara',
      at: '2031-05-09T12:30:00.000Z',
      recipe: TO_MIX,
      measured: null,
      remarks: ['So.'],
    },
    audio: [
      {
        title: 'Stereo mix',
        name: 'mix',
        integrated: -27.31,
        range: 4,
        truePeak: -3.2,
        peak: -3.4,
        overs: 2,
      },
    ],
    sounds: [{ name: 'Lever', path: 'lever.wav', licence: '', source: 'own', uses: 3 }],
    findings: [
      { check: 'loose', weight: 'mind', at: { from: 24, to: 30 }, text: 'Lever: no cue', accepted: null },
      { check: 'loudness', weight: 'mind', at: null, text: 'soft', accepted: { reason: 'is', by: 'Wen' } },
    ],
  }
  const told = (fields: Partial<ReportFacts>): string =>
    JSON.stringify(reportSections(two, { ...facts, ...fields }))

  it('says what left, how it measured, what was open, what was accepted and by whom', () => {
    expect(told({})).toMatch(/Left open: 1.*01:00:01:00.*Accepted: 1.*is \(Wen\)/)
    expect(told({})).toContain('["Stereo mix","mix.wav","-27.3","4.0","-3.2","-3.4","2"]')
    expect(told({})).toContain('["Lever","3","not known","own"]')
    expect(told({ findings: [] })).toContain('Nothing was left open')
  })

  it('says how the stems stand to the mix', () => {
    const measured = {
      ...{ seq: 1, loudness: -27, truePeak: -3, overs: [], limit: -1, treatment: TO_MIX.treatment },
    }
    expect(told({ measured: { ...measured, residual: -200 } })).toContain('to the last bit')
    expect(told({ measured: { ...measured, residual: -128.9 } })).toContain('by -128.9 dBFS')
    const whole = { ...TO_MIX, treatment: { ...TO_MIX.treatment, whole: true } }
    expect(told({ recipe: whole })).toContain('taken before the treatment of the whole')
  })
})

it('cues burnt into a picture keep its frames, and say nothing that would be a command', () => {
  const doc = after(
    testReel(),
    spotCue(testReel(), { id: 'q', category: 'FX', in: 36, out: 60, words: 'A {\\b1} b' }),
  )
  expect(burntCues(doc, 24, 'Sans')).toContain('Dialogue: 0,0:00:00.50,0:00:01.50,Cue,,0,0,0,,FX 001 A b1 b')
})

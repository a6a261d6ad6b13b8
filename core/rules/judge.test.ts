import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { FORMATS, FRAME_RATES, LINES, LOUDNESSES, USUAL_RECIPE } from '@core/model'
import type { Recipe, Size } from '@core/model'
import { videoSize } from '@core/plan'
import { CODINGS, plannedFacts } from './file-facts'
import type { FileCompany, FileFacts } from './file-facts'
import { faultyFields, fieldInWords, isReady, judge, wantedName } from './judge'
import type { RuleKind } from './judge'
import { recipeByRules } from './recipe-by-rules'
import { remedyOf } from './remedy'
import type { RemedyFor } from './remedy'
import { RULE_SETS } from './rule-sets'
import { CONTAINERS } from './rules'
import type { Rules } from './rules'

const RULES: Rules = {
  kind: 'talk-rules',
  version: 1,
  name: 'Tide tables, read aloud',
  length: { least: 60, most: 600 },
  bytes: 100_000_000,
  containers: ['mp4'],
  videoCodecs: ['h264'],
  audioCodecs: ['aac'],
  lines: { least: 720, most: 1080 },
  shape: { width: 16, height: 9 },
  rates: [25, 30],
  loudness: { least: -18, most: -14 },
  fileName: '{paper}-{surname}',
  captions: { where: 'inside', language: 'en' },
  transcript: { language: 'en' },
  cover: { width: 1280, height: 720 },
  fields: [
    { key: 'paper', label: 'Paper', signs: 'digits', length: { least: 1, most: 4 } },
    { key: 'surname', label: 'Surname' },
  ],
  until: '2027-03-01T23:59:00+01:00',
  tries: 2,
}
const GOOD: FileFacts = {
  made: true,
  name: '127-Brandt.mp4',
  length: 540_000,
  bytes: 60_000_000,
  bytesOff: 0,
  container: 'mp4',
  video: { codec: 'h264', size: { width: 1920, height: 1080 }, rate: 30 },
  audio: { codec: 'aac' },
  loudness: -16,
  captions: true,
}
const COMPANY: FileCompany = {
  words: 'en-GB',
  cover: { width: 1280, height: 720 },
  fields: { paper: '127', surname: 'Brandt' },
  now: Date.parse('2027-02-27T12:00:00Z'),
  tries: 1,
}
const SHAPE: Size = { width: 16, height: 9 }

const kindsNotMet = (rules: Rules, file: FileFacts, company: FileCompany): readonly RuleKind[] =>
  judge(rules, file, company).flatMap(({ kind, state }) => (state === 'met' ? [] : [kind]))

/** A file or its company with one thing wrong, and the rule that says so. */
const FAULTS: readonly (readonly [RuleKind, Partial<FileFacts>, Partial<FileCompany>])[] = [
  ['length', { length: 600_001 }, {}],
  ['length', { length: 59_999 }, {}],
  ['size', { bytes: 100_000_001 }, {}],
  ['format', { container: 'mov' }, {}],
  ['format', { container: null }, {}],
  ['format', { audio: null }, {}],
  ['format', { video: { codec: 'hevc', size: { width: 1920, height: 1080 }, rate: 30 } }, {}],
  ['lines', { video: { codec: 'h264', size: { width: 2560, height: 1440 }, rate: 30 } }, {}],
  ['shape', { video: { codec: 'h264', size: { width: 1440, height: 1080 }, rate: 30 } }, {}],
  ['rate', { video: { codec: 'h264', size: { width: 1920, height: 1080 }, rate: 30_000 / 1001 } }, {}],
  ['loudness', { loudness: -23 }, {}],
  ['loudness', { loudness: null }, {}],
  ['captions', { captions: false }, {}],
  ['cover', {}, { cover: null }],
  ['cover', {}, { cover: { width: 1279, height: 720 } }],
  ['name', { name: '127-Brandt-2.mp4' }, {}],
  ['until', {}, { now: Date.parse('2027-03-01T23:00:00Z') }],
  ['tries', {}, { tries: 2 }],
]

describe('rules held against a file', () => {
  it('are all kept by one that keeps them, and say so', () => {
    const lines = judge(RULES, GOOD, COMPANY)
    expect(lines.map(({ kind }) => kind)).toHaveLength(14)
    expect(isReady(lines)).toBe(true)
  })

  it.each(FAULTS)('find what is wrong, and nothing else: %s %o %o', (kind, file, company) => {
    expect(kindsNotMet(RULES, { ...GOOD, ...file }, { ...COMPANY, ...company })).toEqual([kind])
  })

  it('find words in another language, or none, in captions and transcript', () => {
    expect(kindsNotMet(RULES, GOOD, { ...COMPANY, words: 'de' })).toEqual(['captions', 'transcript'])
    expect(kindsNotMet(RULES, GOOD, { ...COMPANY, words: null })).toEqual(['captions', 'transcript'])
  })

  it('wait for fields that are empty, and refuse those of another form', () => {
    const stateOf = (fields: Record<string, string>, kind: RuleKind): string =>
      judge(RULES, GOOD, { ...COMPANY, fields }).find((line) => line.kind === kind)?.state ?? ''
    expect(stateOf({ surname: 'Brandt' }, 'fields')).toBe('open')
    expect(stateOf({ surname: 'Brandt' }, 'name')).toBe('open')
    expect(stateOf({ paper: 'P127', surname: 'Brandt' }, 'fields')).toBe('wrong')
    expect(stateOf({ paper: '12345', surname: 'Brandt' }, 'fields')).toBe('wrong')
    expect(faultyFields(RULES, { paper: ' 127 ', surname: 'Ümlaut' })).toEqual([])
    expect(fieldInWords(RULES.fields?.[0] ?? { key: '', label: '' })).toBe('1 to 4 digits')
  })

  it('ask nothing where they say nothing', () => {
    expect(judge({ kind: 'talk-rules', version: 1, name: 'all' }, GOOD, COMPANY)).toEqual([])
  })

  it('say of a size that is only reckoned that it is open while it may go either way', () => {
    const planned = { ...GOOD, made: false, bytes: 95_000_000, bytesOff: 0.1 }
    const stateOf = (file: FileFacts): string | undefined => judge(RULES, file, COMPANY).find(({ kind }) => kind === 'size')?.state
    expect(stateOf(planned)).toBe('open')
    expect(stateOf({ ...planned, bytes: 80_000_000 })).toBe('met')
    expect(stateOf({ ...planned, bytes: 120_000_000 })).toBe('wrong')
  })
})

describe('what a file is to be called', () => {
  it('is made of the fields, as file systems take it', () => {
    expect(wantedName(RULES, { paper: '127', surname: "O'Hara/Lund" })).toBe("127-O'Hara-Lund")
    expect(wantedName({ ...RULES, fileName: 'final' }, {})).toBe('final')
  })
})

const recipe: Recipe = { ...USUAL_RECIPE, name: '{talk}', limit: { kind: 'none' } }
const remedyFor = (file: FileFacts, company: FileCompany, of: Recipe): RemedyFor => ({
  rules: RULES,
  recipe: of,
  shape: SHAPE,
  bytes: file.bytes,
  made: file.made,
  words: company.words,
  fields: company.fields,
  tooLong: file.length > 600_000,
})

describe('the way out', () => {
  it.each([
    ['length', { length: 660_000 }, {}, 'fit'],
    ['length', { length: 30_000 }, {}, 'record'],
    ['size', { bytes: 300_000_000 }, {}, 'recipe'],
    ['format', { container: 'webm' }, {}, 'recipe'],
    ['lines', { video: { codec: 'h264', size: { width: 854, height: 480 }, rate: 30 } }, {}, 'recipe'],
    ['shape', { video: { codec: 'h264', size: { width: 1440, height: 1080 }, rate: 30 } }, {}, 'recipe'],
    ['rate', { video: { codec: 'h264', size: { width: 1920, height: 1080 }, rate: 60 } }, {}, 'recipe'],
    ['loudness', { loudness: -23 }, {}, 'recipe'],
    ['captions', { captions: false }, {}, 'recipe'],
    ['captions', { captions: false }, { words: null }, 'listen'],
    ['captions', {}, { words: 'de' }, 'language'],
    ['transcript', {}, { words: null }, 'listen'],
    ['cover', {}, { cover: null }, 'cover'],
    ['fields', {}, { fields: {} }, 'fill-in'],
    ['name', { name: 'knots.mp4' }, {}, 'rename'],
  ] as const)('of %s %o %o is %s', (kind, file, company, wanted) => {
    const [held, beside] = [{ ...GOOD, ...file } as FileFacts, { ...COMPANY, ...company } as FileCompany]
    const line = judge(RULES, held, beside).find((one) => one.kind === kind)
    expect(line?.state).not.toBe('met')
    if (line !== undefined) expect(remedyOf(line, remedyFor(held, beside, recipe)).kind).toBe(wanted)
  })

  it('is to make the file again where its recipe was put right already', () => {
    const right = recipeByRules(RULES, recipe, SHAPE, GOOD.bytes)
    const old = { ...GOOD, loudness: -23 }
    const line = judge(RULES, old, COMPANY).find(({ kind }) => kind === 'loudness')
    if (line !== undefined) expect(remedyOf(line, remedyFor(old, COMPANY, right)).kind).toBe('make')
    expect(line?.state).toBe('wrong')
  })
})

/** Rules that something made here can keep. */
const keepable = fc
  .record({
    containers: fc.option(fc.subarray([...CONTAINERS], { minLength: 1 })),
    least: fc.constantFrom(...LINES),
    most: fc.constantFrom(...LINES),
    shape: fc.option(fc.constantFrom({ width: 16, height: 9 }, { width: 4, height: 3 }, { width: 1, height: 1 })),
    rates: fc.option(fc.subarray([...FRAME_RATES, 29.97], { minLength: 1 })),
    loudness: fc.option(fc.constantFrom(...LOUDNESSES)),
  })
  .filter(({ containers, rates }) => (containers ?? ['mp4']).some((one) => one === 'mp4' || one === 'webm') && rates?.join() !== '29.97')
  .map(({ containers, least, most, shape, rates, loudness }): Rules => ({
    kind: 'talk-rules',
    version: 1,
    name: 'any',
    ...(containers === null ? {} : { containers }),
    videoCodecs: ['h264', 'vp9'],
    lines: { least: Math.min(least, most), most: Math.max(least, most) },
    ...(shape === null ? {} : { shape }),
    ...(rates === null ? {} : { rates }),
    ...(loudness === null ? {} : { loudness: { least: loudness - 1, most: loudness + 1 } }),
  }))
const recipes = fc.record({
  format: fc.constantFrom(...FORMATS),
  lines: fc.constantFrom(...LINES),
  rate: fc.constantFrom(...FRAME_RATES),
  loudness: fc.constantFrom(...LOUDNESSES),
})

describe('a recipe by rules', () => {
  it('makes a file that keeps them, whatever it was before, and is then left as it is', () => {
    fc.assert(
      fc.property(keepable, recipes, fc.constantFrom(SHAPE, { width: 4, height: 3 }), (rules, before, shape) => {
        const after = recipeByRules(rules, { ...recipe, ...before }, shape, null)
        const size = after.size ?? videoSize(shape, after.lines)
        const file = plannedFacts(after, { name: 'x', length: 60_000, bytes: 1, bytesOff: 0, size, words: false })
        expect(judge(rules, file, COMPANY).filter(({ state }) => state !== 'met')).toEqual([])
        expect(recipeByRules(rules, after, shape, null)).toEqual(after)
      }),
    )
  })

  it('changes nothing that rules say nothing of, but for what is left out of a talk', () => {
    fc.assert(
      fc.property(recipes, (before) => {
        const given = { ...recipe, ...before, size: null }
        expect(recipeByRules({ kind: 'talk-rules', version: 1, name: 'all' }, given, SHAPE, 1e12)).toEqual(given)
      }),
    )
  })

  it('holds the limit, and a size only where the file would be larger', () => {
    expect(recipeByRules(RULES, recipe, SHAPE, 50_000_000)).toMatchObject({
      limit: { kind: 'hold', limit: 600_000 },
      bits: { kind: 'free' },
      name: '{paper}-{surname}',
    })
    expect(recipeByRules(RULES, recipe, SHAPE, 150_000_000).bits).toEqual({ kind: 'size', most: 100_000_000 })
  })
})

it('ships rules that something made here can keep', () => {
  for (const rules of RULE_SETS) {
    const made = recipeByRules(rules, recipe, SHAPE, 1_000_000)
    const { lines } = made
    const fields = Object.fromEntries((rules.fields ?? []).map(({ key, signs }) => [key, signs === 'digits' ? '12' : 'Lund']))
    const name = wantedName(rules, fields) ?? 'knots'
    const file = plannedFacts(made, { name, length: 120_000, bytes: 1_000_000, bytesOff: 0, size: videoSize(SHAPE, lines), words: true })
    const lineUp = judge(rules, file, { ...COMPANY, fields, cover: rules.cover ?? null })
    expect([rules.name, lineUp.filter(({ state }) => state !== 'met')]).toEqual([rules.name, []])
  }
  expect(Object.keys(CODINGS).sort()).toEqual([...FORMATS].sort())
})

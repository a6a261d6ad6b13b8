import { expect, it } from 'vitest'
import { RULE_SETS } from '@core/rules'
import type { Rules } from '@core/rules'
import { draftOfRules, emptyDraft, rulesOfDraft } from './rules-draft'

const ALL: Rules = {
  kind: 'talk-rules',
  version: 1,
  name: 'Tide tables',
  about: 'Read aloud.',
  length: { least: 61, most: 605 },
  bytes: 12_500_000,
  containers: ['mp4', 'webm'],
  videoCodecs: ['h264'],
  lines: { least: 480, most: 1080 },
  shape: { width: 4, height: 3 },
  rates: [24],
  loudness: { least: -20, most: -12 },
  fileName: '{class}-{name}',
  captions: { where: 'inside', language: 'de' },
  transcript: { language: 'de' },
  cover: { width: 640, height: 480 },
  fields: [
    { key: 'class', label: 'Class', signs: 'letters-and-digits', length: { most: 4 } },
    { key: 'name', label: 'Your name', optional: true },
  ],
  until: '2027-03-01T22:59:00.000Z',
  tries: 2,
}

it.each([ALL, ...RULE_SETS, { kind: 'talk-rules', version: 1, name: 'nothing is asked' } satisfies Rules])(
  'rules that are changed in the form, and then not, stay as they were: $name',
  (rules) => {
    expect(rulesOfDraft(draftOfRules(rules))).toEqual(rules)
  },
)

it('rules ask for what is ticked alone, and a field is known by the letters of what it is called', () => {
  const draft = { ...emptyDraft(), name: ' Class 9b ' }
  expect(rulesOfDraft(draft)).toEqual({ kind: 'talk-rules', version: 1, name: 'Class 9b', length: { most: 600 }, containers: ['mp4'] })
  draft.fields = { on: true, list: [{ label: 'Sur-name', signs: 'letters', optional: false, key: '', length: null }] }
  expect(rulesOfDraft(draft).fields).toEqual([{ key: 'surname', label: 'Sur-name', signs: 'letters' }])
})

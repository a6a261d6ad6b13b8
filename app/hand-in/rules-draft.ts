import type { Bounds, CaptionPlace, Container, FieldSigns, RuleField, Rules } from '@core/rules'

/** A field while it is written. */
export interface FieldDraft {
  label: string
  signs: FieldSigns
  optional: boolean
  /** Of a field that was there before; empty: made of what it is called. */
  key: string
  length: Bounds | null
}

/** Rules while they are written: each is asked for or not, and keeps what stood in it. */
export interface RulesDraft {
  name: string
  about: string
  most: { on: boolean; minutes: number; seconds: number }
  least: { on: boolean; minutes: number; seconds: number }
  size: { on: boolean; megabytes: number }
  containers: { on: boolean; list: Container[] }
  /** null: any. */
  lines: { on: boolean; least: number | null; most: number | null }
  shape: { on: boolean; width: number; height: number }
  rates: { on: boolean; list: number[] }
  loudness: { on: boolean; least: number | null; most: number | null }
  fileName: { on: boolean; pattern: string }
  captions: { on: boolean; where: CaptionPlace }
  transcript: { on: boolean }
  language: { on: boolean; tag: string }
  cover: { on: boolean; width: number; height: number }
  fields: { on: boolean; list: FieldDraft[] }
  until: { on: boolean; at: Date | null }
  tries: { on: boolean; most: number }
  /** What the form has no sentence for; it is kept as it is. */
  codecs: Pick<Rules, 'videoCodecs' | 'audioCodecs'>
}

export const emptyField = (): FieldDraft => ({ label: '', signs: 'anything', optional: false, key: '', length: null })

const EMPTY: RulesDraft = {
  name: '',
  about: '',
  most: { on: true, minutes: 10, seconds: 0 },
  least: { on: false, minutes: 1, seconds: 0 },
  size: { on: false, megabytes: 200 },
  containers: { on: true, list: ['mp4'] },
  lines: { on: false, least: 720, most: 1080 },
  shape: { on: false, width: 16, height: 9 },
  rates: { on: false, list: [25, 30] },
  loudness: { on: false, least: -18, most: -14 },
  fileName: { on: false, pattern: '{surname}' },
  captions: { on: false, where: 'either' },
  transcript: { on: false },
  language: { on: false, tag: 'en' },
  cover: { on: false, width: 1280, height: 720 },
  fields: { on: false, list: [{ label: 'Surname', signs: 'anything', optional: false, key: '', length: null }] },
  until: { on: false, at: null },
  tries: { on: false, most: 3 },
  codecs: {},
}
export const emptyDraft = (): RulesDraft => structuredClone(EMPTY)

/** The key of a field by what it is called: its letters, in small. */
const keyOf = (label: string): string =>
  label
    .toLowerCase()
    .replace(/[^a-z]/g, '')
    .slice(0, 20)

const when = <Value>(on: boolean, value: Value): Value | null => (on ? value : null)
const secondsOf = ({ minutes, seconds }: RulesDraft['most']): number => minutes * 60 + seconds

function boundsOf(least: number | null, most: number | null): Bounds | null {
  if (least === null && most === null) return null
  return { ...(least === null ? {} : { least }), ...(most === null ? {} : { most }) }
}

function fieldOf({ label, signs, optional, key, length }: FieldDraft): RuleField | null {
  const name = key === '' ? keyOf(label) : key
  if (name === '' || label.trim() === '') return null
  return {
    key: name,
    label: label.trim(),
    ...(optional ? { optional } : {}),
    ...(signs === 'anything' ? {} : { signs }),
    ...(length === null ? {} : { length }),
  }
}

/** Rules as they were written. */
export function rulesOfDraft(draft: RulesDraft): Rules {
  const language = draft.language.on ? { language: draft.language.tag } : {}
  const fields = draft.fields.list.flatMap((field) => fieldOf(field) ?? [])
  const asked: Readonly<Record<string, unknown>> = {
    about: when(draft.about.trim() !== '', draft.about.trim()),
    length: boundsOf(when(draft.least.on, secondsOf(draft.least)), when(draft.most.on, secondsOf(draft.most))),
    bytes: when(draft.size.on, Math.round(draft.size.megabytes * 1e6)),
    containers: when(draft.containers.on && draft.containers.list.length > 0, draft.containers.list),
    lines: when(draft.lines.on, boundsOf(draft.lines.least, draft.lines.most)),
    shape: when(draft.shape.on, { width: draft.shape.width, height: draft.shape.height }),
    rates: when(draft.rates.on && draft.rates.list.length > 0, draft.rates.list),
    loudness: when(draft.loudness.on, boundsOf(draft.loudness.least, draft.loudness.most)),
    fileName: when(draft.fileName.on, draft.fileName.pattern.trim()),
    captions: when(draft.captions.on, { where: draft.captions.where, ...language }),
    transcript: when(draft.transcript.on, language),
    cover: when(draft.cover.on, { width: draft.cover.width, height: draft.cover.height }),
    fields: when(draft.fields.on && fields.length > 0, fields),
    until: when(draft.until.on, draft.until.at?.toISOString() ?? null),
    tries: when(draft.tries.on, draft.tries.most),
  }
  const kept = Object.entries(asked).filter(([, value]) => value !== null)
  return { kind: 'talk-rules', version: 1, name: draft.name.trim(), ...draft.codecs, ...Object.fromEntries(kept) }
}

/** A rule of a draft, as it stands when rules ask for it; when they do not, it keeps what stands there at first. */
const rule = <Kept extends { on: boolean }>(empty: Kept, asked: Partial<Omit<Kept, 'on'>> | undefined): Kept =>
  asked === undefined ? { ...empty, on: false } : { ...empty, ...asked, on: true }

const clockOf = (seconds: number | undefined) =>
  seconds === undefined ? undefined : { minutes: Math.floor(seconds / 60), seconds: seconds % 60 }
const some = <Value>(value: Value | undefined, as: string) => (value === undefined ? undefined : { [as]: value })

/** What is made of a value that may not be there. */
const of = <Value, Made>(value: Value | undefined, make: (value: Value) => Made): Made | undefined =>
  value === undefined ? undefined : make(value)
const copied = <Value>(list: readonly Value[]): Value[] => [...list]
const bothBounds = (bounds: Bounds | undefined) =>
  bounds === undefined ? undefined : { least: bounds.least ?? null, most: bounds.most ?? null }

/** Rules as they are changed. */
export function draftOfRules(rules: Rules): RulesDraft {
  const empty = emptyDraft()
  const language = rules.captions?.language ?? rules.transcript?.language
  const { videoCodecs, audioCodecs } = rules
  return {
    name: rules.name,
    about: rules.about ?? '',
    most: rule(empty.most, clockOf(rules.length?.most)),
    least: rule(empty.least, clockOf(rules.length?.least)),
    size: rule(
      empty.size,
      some(
        of(rules.bytes, (bytes) => bytes / 1e6),
        'megabytes',
      ),
    ),
    containers: rule(empty.containers, some(of(rules.containers, copied), 'list')),
    lines: rule(empty.lines, bothBounds(rules.lines)),
    shape: rule(empty.shape, rules.shape),
    rates: rule(empty.rates, some(of(rules.rates, copied), 'list')),
    loudness: rule(empty.loudness, bothBounds(rules.loudness)),
    fileName: rule(empty.fileName, some(rules.fileName, 'pattern')),
    captions: rule(empty.captions, some(rules.captions?.where, 'where')),
    transcript: rule(
      empty.transcript,
      of(rules.transcript, () => ({})),
    ),
    language: rule(empty.language, some(language, 'tag')),
    cover: rule(empty.cover, rules.cover),
    fields: rule(empty.fields, some(rules.fields?.map(fieldDraft), 'list')),
    until: rule(
      empty.until,
      some(
        of(rules.until, (at) => new Date(at)),
        'at',
      ),
    ),
    tries: rule(empty.tries, some(rules.tries, 'most')),
    codecs: { ...some(videoCodecs, 'videoCodecs'), ...some(audioCodecs, 'audioCodecs') },
  }
}

const fieldDraft = ({ key, label, signs = 'anything', optional = false, length = undefined }: RuleField): FieldDraft => ({
  key,
  label,
  signs,
  optional,
  length: length ?? null,
})

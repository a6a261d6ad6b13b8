import type { CaptionPlace, Container, Rules } from '@core/rules'

/** Rules while they are written: each is asked for or not, and keeps what stood in it. */
export interface RulesDraft {
  name: string
  about: string
  most: { on: boolean; minutes: number; seconds: number }
  least: { on: boolean; minutes: number; seconds: number }
  size: { on: boolean; megabytes: number }
  containers: { on: boolean; list: Container[] }
  lines: { on: boolean; least: number; most: number }
  shape: { on: boolean; width: number; height: number }
  rates: { on: boolean; list: number[] }
  loudness: { on: boolean; least: number; most: number }
  fileName: { on: boolean; pattern: string }
  captions: { on: boolean; where: CaptionPlace }
  transcript: { on: boolean }
  language: { on: boolean; tag: string }
  cover: { on: boolean; width: number; height: number }
  /** A label in each line. */
  fields: { on: boolean; labels: string }
  until: { on: boolean; at: Date | null }
  tries: { on: boolean; most: number }
}

export const emptyDraft = (): RulesDraft => ({
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
  fields: { on: false, labels: 'Surname' },
  until: { on: false, at: null },
  tries: { on: false, most: 3 },
})

/** The key of a field by what it is called: its letters, in small. */
const keyOf = (label: string): string =>
  label
    .toLowerCase()
    .replace(/[^a-z]/g, '')
    .slice(0, 20)

const when = <Value>(on: boolean, value: Value): Value | null => (on ? value : null)
const secondsOf = ({ minutes, seconds }: RulesDraft['most']): number => minutes * 60 + seconds

function boundsOf(least: number | null, most: number | null): { least?: number; most?: number } | null {
  if (least === null && most === null) return null
  return { ...(least === null ? {} : { least }), ...(most === null ? {} : { most }) }
}

/** Rules as they were written. */
export function rulesOfDraft(draft: RulesDraft): Rules {
  const language = draft.language.on ? { language: draft.language.tag } : {}
  const labels = draft.fields.labels.split('\n').flatMap((label) => (keyOf(label) === '' ? [] : [label.trim()]))
  const asked: Readonly<Record<string, unknown>> = {
    about: when(draft.about.trim() !== '', draft.about.trim()),
    length: boundsOf(when(draft.least.on, secondsOf(draft.least)), when(draft.most.on, secondsOf(draft.most))),
    bytes: when(draft.size.on, Math.round(draft.size.megabytes * 1e6)),
    containers: when(draft.containers.on && draft.containers.list.length > 0, draft.containers.list),
    lines: when(draft.lines.on, { least: draft.lines.least, most: draft.lines.most }),
    shape: when(draft.shape.on, { width: draft.shape.width, height: draft.shape.height }),
    rates: when(draft.rates.on && draft.rates.list.length > 0, draft.rates.list),
    loudness: when(draft.loudness.on, { least: draft.loudness.least, most: draft.loudness.most }),
    fileName: when(draft.fileName.on, draft.fileName.pattern.trim()),
    captions: when(draft.captions.on, { where: draft.captions.where, ...language }),
    transcript: when(draft.transcript.on, language),
    cover: when(draft.cover.on, { width: draft.cover.width, height: draft.cover.height }),
    fields: when(
      draft.fields.on && labels.length > 0,
      labels.map((label) => ({ key: keyOf(label), label })),
    ),
    until: when(draft.until.on, draft.until.at?.toISOString() ?? null),
    tries: when(draft.tries.on, draft.tries.most),
  }
  const kept = Object.entries(asked).filter(([, value]) => value !== null)
  return { kind: 'talk-rules', version: 1, name: draft.name.trim(), ...Object.fromEntries(kept) }
}

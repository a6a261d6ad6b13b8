import { median } from 'd3'
import { asId, PLAIN_FRAMING } from '@core/model'
import type { Cue, Film, Programme, VisitId } from '@core/model'
import {
  applyProgrammeEdit,
  dub,
  merged,
  piecesOfTake,
  programmeLength,
  replaceFrom,
  retakeRange,
  retakeVisit,
  seamsOf,
  visitsOf,
} from '@core/programme'
import type { ProgrammeEdit } from '@core/programme'
import { film, slide, stretch, stroke } from '@core/testing'
import type { Figure } from './figure'

const HOURS = 3 * 3_600_000
const PIECES = 2000
const STROKES = 10_000
const TIMES = 30

/** Three hours of 2,000 pieces and 10,000 strokes, with what a long afternoon of mending leaves in it. */
function longTalk(): Film {
  const slides = Array.from({ length: 60 }, (_, n) => slide(`slide ${String(n)}`))
  const stretches = Array.from({ length: PIECES }, (_, n) => {
    const on = asId<'slide'>(`slide ${String(n % 60)}`)
    const cues = Array.from({ length: STROKES / PIECES }, (__, k): Cue => ({
      kind: 'ink',
      at: k * 100,
      stroke: stroke(`${String(n)}.${String(k)}`, on, 900),
    }))
    return stretch(`s${String(n)}`, HOURS / PIECES, on, cues)
  })
  const made = film(slides, stretches)
  let { programme } = made
  for (let n = 0; n < 200; n += 1)
    programme = applyProgrammeEdit(programme, { kind: 'cut', parts: [{ from: n * 50_000 + 1000, to: n * 50_000 + 1400 }] })
  for (const [n, visit] of visitsOf(programme).slice(0, 300).entries()) {
    programme = applyProgrammeEdit(programme, {
      kind: 'ink',
      visit: visit.id,
      strokes: [asId(`${String(n)}.0`)],
      change: { kind: 'delete' },
    })
    programme = applyProgrammeEdit(programme, {
      kind: 'draw',
      ink: {
        visit: visit.id,
        over: { kind: 'stretch', id: asId(`s${String(n)}`) },
        at: 900,
        stroke: stroke(`more ${String(n)}`, visit.slide, 500),
      },
    })
  }
  return { ...made, programme }
}

/** Every edit on a programme of three hours, 2,000 pieces and 10,000 strokes; the slowest counts. */
export function measure(): Promise<Figure> {
  const { programme } = longTalk()
  const visits = visitsOf(programme)
  const middle = visits[visits.length >> 1] as (typeof visits)[number]
  const at = Math.round(programmeLength(programme) / 2)
  const seam = seamsOf(programme)[100]
  const taken = piecesOfTake({ id: asId('again'), kind: 'retake', stretches: [stretch('again', 4000, middle.slide)] })
  const many: readonly VisitId[] = visits.filter((_, n) => n % 10 === 0).map((visit) => visit.id)
  const edits: readonly ProgrammeEdit[] = [
    { kind: 'cut', parts: [{ from: at, to: at + 700 }] },
    { kind: 'drop', visits: [middle.id] },
    ...(seam === undefined ? [] : [{ kind: 'reopen' as const, seam: seam.id }]),
    { kind: 'move', visit: middle.id, before: visits[3]?.id ?? null },
    { kind: 'repeat', visit: middle.id, before: null, name: 'x' },
    { kind: 'tempo', visits: [], rate: { num: 27, den: 25 } },
    { kind: 'hush', visits: [middle.id] },
    { kind: 'linger', visit: middle.id, length: 900, step: 0 },
    { kind: 'insert', slide: middle.slide, version: 1, length: 4000, before: middle.id, name: 'new' },
    { kind: 'framing', visits: many, framing: { ...PLAIN_FRAMING, rect: { x: 0, y: 0, w: 0.2, h: 0.3 } } },
    { kind: 'ink', visit: middle.id, strokes: [asId('1000.1')], change: { kind: 'colour', colour: 'moss' } },
    {
      kind: 'draw',
      ink: { visit: middle.id, over: { kind: 'stretch', id: asId('s1000') }, at: 100, stroke: stroke('new', middle.slide, 500) },
    },
  ]
  // As the server has it: what another page made of it comes from the database, and shares nothing.
  const other = JSON.parse(
    JSON.stringify(applyProgrammeEdit(programme, { kind: 'hush', visits: [visits[7]?.id ?? middle.id] })),
  ) as Programme
  const works: readonly (readonly [string, () => Programme])[] = [
    ...edits.map((edit) => [edit.kind, () => applyProgrammeEdit(programme, edit)] as const),
    ['retake', () => retakeVisit(programme, middle.id, taken, {})],
    ['range', () => retakeRange(programme, middle.id, 500, 2500, taken, {})],
    ['replaceFrom', () => replaceFrom(programme, at, taken, {})],
    ['dub', () => dub(programme, at, [{ id: asId('dub'), length: 9000, camera: false }])],
  ]
  const timed = (work: () => Programme): number => {
    work()
    const times = Array.from({ length: TIMES }, () => {
      const began = performance.now()
      work()
      return performance.now() - began
    })
    return Number((median(times) ?? NaN).toFixed(2))
  }
  const took = Object.fromEntries(works.map(([name, work]) => [name, timed(work)]))
  // No edit, but what is done besides when two pages have edited, and when one is taken back.
  const mergeMs = timed(() => merged(programme, applyProgrammeEdit(programme, { kind: 'hush', visits: [middle.id] }), other))
  const value = Math.max(...Object.values(took))
  return Promise.resolve({ value, unit: 'ms', target: '5 or less', ok: value <= 5, detail: { medianMs: took, mergeMs } })
}

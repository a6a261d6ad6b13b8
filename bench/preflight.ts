import { asId } from '@core/model'
import type { Cue } from '@core/model'
import { preflight } from '@core/plan'
import { applyProgrammeEdit } from '@core/programme'
import { indexFilm } from '@core/scene'
import { film, slide, stretch, stroke } from '@core/testing'
import { PEAKS_A_SECOND } from '@core/voice'
import type { Figure } from './figure'

const HOUR = 3_600_000
const PIECES = 400
const TIMES = 9

/** The checks before a file, of an hour in 400 pieces of one recording. */
export function measure(): Promise<Figure> {
  const slides = Array.from({ length: 60 }, (_, n) => slide(`slide ${String(n)}`))
  const cues = Array.from({ length: 200 }, (_, n): readonly Cue[] => [
    { kind: 'show', at: n * 18_000 + 1, slide: asId(`slide ${String(n % 60)}`), step: 0 },
    { kind: 'ink', at: n * 18_000 + 900, stroke: stroke(`k${String(n)}`, asId(`slide ${String(n % 60)}`), 700) },
  ]).flat()
  const made = film(slides, [stretch('s', HOUR, asId('slide 0'), cues, { loudness: -20 })])
  const parts = Array.from({ length: PIECES / 2 }, (_, n) => ({ from: n * 18_000 + 9000, to: n * 18_000 + 9400 }))
  const index = indexFilm({ ...made, programme: applyProgrammeEdit(made.programme, { kind: 'cut', parts }) })
  const peaks = { s: Array.from({ length: (HOUR / 1000) * PEAKS_A_SECOND }, (_, n) => (n % 90 < 20 ? 1 : 60 + (n % 150))) }
  const times = Array.from({ length: TIMES }, () => {
    const began = performance.now()
    preflight(index, peaks, slides)
    return performance.now() - began
  }).sort((a, b) => a - b)
  const value = Number((times[TIMES >> 1] ?? 0).toFixed(1))
  const played = index.film.programme.pieces.filter((piece) => piece.out === undefined).length
  return Promise.resolve({
    value,
    unit: 'ms',
    target: '50 or less',
    ok: value <= 50,
    detail: { pieces: played, slowestMs: Number((times.at(-1) ?? 0).toFixed(1)) },
  })
}

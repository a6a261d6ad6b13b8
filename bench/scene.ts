import { asId } from '@core/model'
import type { Cue } from '@core/model'
import { indexFilm, sceneAt } from '@core/scene'
import { film, slide, stretch, stroke } from '@core/testing'
import type { Figure } from './figure'

const HOURS = 3 * 3_600_000
const STROKES = 10_000

function cost(pieces: number): number {
  const slides = Array.from({ length: 60 }, (_, n) => slide(`slide ${String(n)}`))
  const length = HOURS / pieces
  const stretches = Array.from({ length: pieces }, (_, n) => {
    const on = asId<'slide'>(`slide ${String(n % 60)}`)
    const cues = Array.from({ length: STROKES / pieces }, (__, k): Cue => ({
      kind: 'ink',
      at: k * 100,
      stroke: stroke(`${String(n)}.${String(k)}`, on, 900),
    }))
    return stretch(`s${String(n)}`, length, on, cues)
  })
  const index = indexFilm(film(slides, stretches))
  const asked = 20_000
  const ask = (): void => {
    for (let n = 0; n < asked; n += 1) sceneAt(index, (n * 7919 * 13) % HOURS)
  }
  ask()
  const began = performance.now()
  ask()
  return ((performance.now() - began) * 1000) / asked
}

/** sceneAt at random times of a programme of three hours, 2,000 pieces and 10,000 strokes; and of one with twice the pieces. */
export function measure(): Promise<Figure> {
  const value = Number(cost(2000).toFixed(2))
  const twice = cost(4000)
  return Promise.resolve({
    value,
    unit: 'µs',
    target: '50 or less, twice the pieces under 1.3 times',
    ok: value <= 50 && twice / value < 1.3,
    detail: { twicePieces: Number((twice / value).toFixed(2)) },
  })
}

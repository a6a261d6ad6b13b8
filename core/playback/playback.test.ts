import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { asId } from '@core/model'
import type { Piece } from '@core/model'
import { intoSpan } from '@core/programme'
import { indexFilm } from '@core/scene'
import { film, slide, still, stretch } from '@core/testing'
import { playheadAt, turnOf, voiceAfter, volumesOf } from '.'

const [one, two, three] = [slide('one'), slide('two'), slide('three')]
const a = stretch('a', 10_000, one.id, [], { loudness: -20 })
const b = stretch('b', 10_000, two.id, [], { loudness: -14 })
const base = film([one, two, three], [a, b])
/** A piece of a recording, its pictures and its voice alike. */
function heard(of: typeof a, on: typeof one, from: number, to: number, rate = { num: 1, den: 1 }): Piece {
  const span = { stretch: of.id, from, to, rate }
  return { kind: 'recorded', visit: asId(`${on.id}${String(from)}`), slide: on.id, show: span, voice: span, camera: span }
}
const FILM = indexFilm({
  ...base,
  programme: {
    ...base.programme,
    pieces: [
      heard(a, one, 1000, 3000),
      heard(a, two, 3000, 4000),
      still('held', three.id, 500),
      heard(b, two, 0, 2000, { num: 2, den: 1 }),
      heard(a, one, 8000, 9000),
    ],
  },
})

describe('a film that is played', () => {
  it('says what is heard at each of its times, and where that is in its recording', () => {
    expect(playheadAt(FILM, 500)).toMatchObject({ number: 0, into: 500, voice: { stretch: a.id }, voiceAt: 1500 })
    expect(playheadAt(FILM, 3200)).toMatchObject({ number: 2, into: 200, voice: null })
    expect(playheadAt(FILM, 4000)).toMatchObject({ number: 3, into: 500, voice: { stretch: b.id }, voiceAt: 1000 })
    expect(playheadAt(indexFilm(film([one], [])), 0)).toBeNull()
  })

  it('follows the voice: what is heard says where the film is', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: FILM.length - 1, noNaN: true }), (at) => {
        const head = playheadAt(FILM, at)
        if (head?.voice == null) return
        const turn = turnOf(FILM, { number: head.number, into: intoSpan(head.voice, head.voiceAt) }, false, null)
        expect(Math.abs(turn.at - at)).toBeLessThanOrEqual(1.001)
      }),
    )
  })

  it('goes to the next piece at the end of one, or when its recording has ended, and is over at its end', () => {
    expect(turnOf(FILM, { number: 0, into: 700 }, false, null)).toEqual({ kind: 'on', at: 700 })
    expect(turnOf(FILM, { number: 0, into: 1999.5 }, false, null)).toEqual({ kind: 'enter', at: 2000 })
    expect(turnOf(FILM, { number: 0, into: 700 }, true, null)).toEqual({ kind: 'enter', at: 2000 })
    expect(turnOf(FILM, { number: 4, into: 1000 }, false, null)).toEqual({ kind: 'over', at: FILM.length })
    // A voice that was set right is never before its piece.
    expect(turnOf(FILM, { number: 1, into: -40 }, false, null)).toEqual({ kind: 'on', at: 2000 })
  })

  it('begins a part again that is played over and over', () => {
    const loop = { from: 400, to: 1200 }
    expect(turnOf(FILM, { number: 0, into: 1100 }, false, loop)).toEqual({ kind: 'on', at: 1100 })
    expect(turnOf(FILM, { number: 0, into: 1210 }, false, loop)).toEqual({ kind: 'enter', at: 400 })
  })

  it('knows what is to be got ready: what is heard after the next join, past what goes on', () => {
    expect(voiceAfter(FILM, 0)).toMatchObject({ stretch: b.id, from: 0 })
    expect(voiceAfter(FILM, 3)).toMatchObject({ stretch: a.id, from: 8000 })
    expect(voiceAfter(FILM, 4)).toBeNull()
  })

  it('plays recordings equally loud, none louder than it was recorded', () => {
    const volumes = volumesOf(FILM)
    expect(volumes.get(a.id)).toBe(1)
    expect(20 * Math.log10(volumes.get(b.id) ?? 0)).toBeCloseTo(-6, 1)
  })
})

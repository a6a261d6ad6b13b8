import { expect, it } from 'vitest'
import { film, recorded, slide, still, stretch } from '@core/testing'
import { heldWithoutVoice, isInVisit, pausesIn, piecesOfVisit, rangeInVisit, stumblesIn, visitsOf } from '.'

const [one, two] = [slide('one'), slide('two')]
const stumble = (at: number) => ({ kind: 'stumble' as const, at })
const a = stretch('s', 9000, one.id, [stumble(500), stumble(2500), stumble(8000)])
const b = stretch('b', 9000, one.id, [stumble(1000)])
const base = film([one, two], [a, b])
const AS_SHOWN = { from: 0, to: 4000, rate: { num: 1, den: 1 } }
const first = recorded('a', one.id, 1000, 3000, { num: 2, den: 1 })
const programme = {
  ...base.programme,
  pieces: [
    first,
    { ...recorded('b', one.id, 0, 4000), visit: first.visit, show: { ...AS_SHOWN, stretch: b.id } },
    still('held', two.id, 700),
  ],
}
const [spoken, held] = visitsOf(programme)
if (spoken === undefined || held === undefined) throw new Error('there are two visits')

it('knows where somebody stumbled, paused, or was not recorded', () => {
  const cues = stumblesIn(programme, spoken, (id) => base.stretches.get(id)?.cues ?? [])
  // The first is before what is played, the third behind it; at twice the tempo 2500 of the recording is 750 of the talk.
  expect(cues).toEqual([750, 1000 + 1000])
  expect(pausesIn(piecesOfVisit(programme, spoken))).toBe(1)
  expect([heldWithoutVoice(programme, spoken), heldWithoutVoice(programme, held)]).toEqual([null, 700])
})

it('takes of a chosen part what lies in a visit', () => {
  expect(rangeInVisit(spoken, { from: 200, to: 400 })).toEqual({ from: 200, to: 400 })
  expect(rangeInVisit(spoken, { from: 4800, to: 5300 })).toEqual({ from: 4800, to: 5000 })
  expect(rangeInVisit(held, { from: 5100, to: 5300 })).toEqual({ from: 100, to: 300 })
  expect(rangeInVisit(held, { from: 4800, to: 5300 })).toBeNull()
  expect(rangeInVisit(held, null)).toBeNull()
  expect([isInVisit(spoken, 5000), isInVisit(held, 5000)]).toEqual([false, true])
})

import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { NOTHING_WATCHED, partAt, playedAt, report, wentTo } from '.'
import type { FilmPart, WatchLog } from '.'

const VISITS = [
  { id: 'a', start: 0, length: 12_000 },
  { id: 'b', start: 12_000, length: 4000 },
  { id: 'c', start: 16_000, length: 30_000 },
]
const LENGTH = 46_000
const name = ({ visit, part }: FilmPart): string => `${visit}${String(part)}`

describe('how a talk is watched', () => {
  it('is told in parts of five seconds of a visit', () => {
    expect([0, 4999, 5000, 11_999, 12_000, 15_999, 16_000, 45_999, 46_000].map((at) => name(partAt(VISITS, at)!))).toEqual([
      'a0',
      'a0',
      'a1',
      'a2',
      'b0',
      'b0',
      'c0',
      'c5',
      'c5',
    ])
  })

  it('counts one page once for each part, wherever it goes and however often it tells', () => {
    const steps = fc.array(
      fc.oneof(
        fc.record({ kind: fc.constant('play' as const), at: fc.integer({ min: 0, max: LENGTH }) }),
        fc.record({ kind: fc.constant('go' as const), from: fc.integer({ min: 0, max: LENGTH }), to: fc.integer({ min: 0, max: LENGTH }) }),
        fc.record({ kind: fc.constant('tell' as const), leaves: fc.option(fc.integer({ min: 0, max: LENGTH })) }),
      ),
      { maxLength: 60 },
    )
    fc.assert(
      fc.property(steps, (all) => {
        let log = NOTHING_WATCHED
        let told: WatchLog = NOTHING_WATCHED
        const [played, left] = [new Map<string, number>(), new Map<string, number>()]
        const add = (counts: Map<string, number>, part: FilmPart | null, by: number): void => {
          if (part !== null) counts.set(name(part), (counts.get(name(part)) ?? 0) + by)
        }
        let [begun, finished] = [0, 0]
        const tell = (leaves: number | null): void => {
          const said = report(log, told, leaves === null ? null : partAt(VISITS, leaves))
          log = said.log
          told = log
          if (said.report === null) return
          begun += said.report.begun ? 1 : 0
          finished += said.report.finished ? 1 : 0
          for (const part of said.report.played) add(played, part, 1)
          add(left, said.report.left, 1)
          add(left, said.report.stayed, -1)
        }
        const really = new Set<string>()
        let end = false
        for (const step of all) {
          if (step.kind === 'play') {
            log = playedAt(log, VISITS, step.at, LENGTH)
            really.add(name(partAt(VISITS, step.at)!))
            end ||= step.at >= LENGTH - 5000
          } else if (step.kind === 'go') log = wentTo(log, VISITS, step.from, step.to)
          else tell(step.leaves)
        }
        tell(20_000)
        expect([...played.keys()].sort()).toEqual([...really].sort())
        expect([...played.values()].every((count) => count === 1)).toBe(true)
        expect([begun, finished]).toEqual([really.size > 0 ? 1 : 0, end ? 1 : 0])
        // They have left once, and where they did last.
        expect([...left].filter(([, count]) => count !== 0)).toEqual(really.size > 0 ? [['c0', 1]] : [])
      }),
    )
  })

  it('knows what was gone back to, and not what was only passed over', () => {
    const log = playedAt(NOTHING_WATCHED, VISITS, 1000, LENGTH)
    expect(wentTo(log, VISITS, 9000, 0).back).toEqual([{ visit: 'a', part: 0 }])
    expect([wentTo(log, VISITS, 0, 9000).back, wentTo(log, VISITS, 20_000, 13_000).back]).toEqual([[], []])
  })
})

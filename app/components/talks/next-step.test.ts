import { describe, expect, it } from 'vitest'
import type { TalkCard } from '@contracts'
import { nextStep, talksShown } from './next-step'

const USUAL: TalkCard = {
  id: '1',
  name: 'Tides',
  limit: 60_000,
  picture: null,
  timelineBlocks: [{ planned: 20_000, recorded: 0 }],
  deliveries: 0,
  importing: false,
  unfinished: false,
  demo: false,
  changed: '2026-03-01T10:00:00Z',
}
const talk = (name: string, fields: Partial<TalkCard> = {}): TalkCard => ({ ...USUAL, id: name, name, ...fields })
const recorded = (ms: number) => ({ timelineBlocks: [{ planned: 20_000, recorded: ms }] })

describe('what a talk waits for', () => {
  it('is the first thing that is missing on its way', () => {
    expect(nextStep(talk('a', { timelineBlocks: [] })).to).toBe('prepare')
    expect(nextStep(talk('a')).say).toBe('Record it')
    expect(nextStep(talk('a', recorded(61_000))).say).toBe('0:01 over: listen and shorten')
    expect(nextStep(talk('a', recorded(30_000))).say).toBe('Make the file')
    expect(nextStep(talk('a', { ...recorded(30_000), deliveries: 1 })).say).toBe('Hand it over')
    expect(nextStep(talk('a', { ...recorded(61_000), unfinished: true })).to).toBe('lectern')
  })
})

describe('talks on their page', () => {
  const talks = [
    talk('Ropes 10', { changed: '2026-03-03T10:00:00Z' }),
    talk('ropes 2', { ...recorded(30_000), deliveries: 1, changed: '2026-03-04T10:00:00Z' }),
    talk('Tides at the pier', { unfinished: true }),
    talk('Swifts', { ...recorded(70_000), changed: '2026-03-02T10:00:00Z' }),
  ]
  const names = (wanted: string, order: 'waiting' | 'changed' | 'name'): readonly string[] =>
    talksShown(talks, wanted, order).map(({ name }) => name)

  it('are found by words of their names in any order and case', () => {
    expect(names('PIER tides', 'name')).toEqual(['Tides at the pier'])
    expect(names('  ', 'name')).toHaveLength(4)
    expect(names('owls', 'name')).toEqual([])
  })

  it('stand by what waits first, by when they were changed, or by name as people count', () => {
    expect(names('', 'waiting')).toEqual(['Tides at the pier', 'Swifts', 'Ropes 10', 'ropes 2'])
    expect(names('', 'changed')).toEqual(['ropes 2', 'Ropes 10', 'Swifts', 'Tides at the pier'])
    expect(names('ropes', 'name')).toEqual(['ropes 2', 'Ropes 10'])
  })
})

import { describe, expect, it } from 'vitest'
import { stepNeeded } from '.'
import type { TalkSoFar } from '.'

const talk = (fields: Partial<TalkSoFar> = {}): TalkSoFar => ({
  limit: 60_000,
  timelineBlocks: [{ recorded: 0 }],
  deliveries: 0,
  importing: false,
  unfinished: false,
  ...fields,
})
const recorded = (ms: number) => ({ timelineBlocks: [{ recorded: ms }] })

describe('what a talk waits for', () => {
  it('is the first thing that is missing on its way, what could be lost before all else', () => {
    expect(stepNeeded(talk({ timelineBlocks: [] }))).toBe('bring-deck')
    expect(stepNeeded(talk())).toBe('record')
    expect(stepNeeded(talk(recorded(61_000)))).toBe('shorten')
    expect(stepNeeded(talk({ ...recorded(61_000), limit: null }))).toBe('make-file')
    expect(stepNeeded(talk({ ...recorded(30_000), deliveries: 1 }))).toBe('hand-over')
    expect(stepNeeded(talk({ ...recorded(30_000), deliveries: 1, importing: true }))).toBe('deck-comes')
    expect(stepNeeded(talk({ ...recorded(61_000), importing: true, unfinished: true }))).toBe('look-at-take')
  })
})

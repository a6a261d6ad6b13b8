import fc from 'fast-check'
import Papa from 'papaparse'
import { describe, expect, it } from 'vitest'
import { ENTRY_STATES, REVIEWS, countedEntry, entryNames, registerTable, takingAt } from './index'
import type { CallTerms, EarlierEntry, RegisterLine } from './index'

const UNTIL = Date.UTC(2026, 11, 12, 22, 59, 59)
const terms = (change: Partial<CallTerms> = {}): CallTerms => ({ until: UNTIL, late: 'refused', withdrawn: false, ...change })
const taken = (review: EarlierEntry['review'] = 'unseen'): EarlierEntry => ({ state: 'taken', review })

describe('handing in', () => {
  it('is in time up to the last moment, and late a millisecond after it', () => {
    expect(takingAt(terms(), [], UNTIL)).toEqual({ kind: 'taken', late: false })
    expect(takingAt(terms(), [], UNTIL + 1)).toMatchObject({ kind: 'refused' })
    expect(takingAt(terms({ late: 'marked' }), [], UNTIL + 1)).toEqual({ kind: 'taken', late: true })
  })

  it('can be done again until then, and afterwards never takes the place of what was in time', () => {
    expect(takingAt(terms(), [taken()], UNTIL)).toEqual({ kind: 'taken', late: false })
    expect(takingAt(terms({ late: 'marked' }), [taken()], UNTIL + 1)).toMatchObject({ kind: 'refused' })
  })

  it('is open again after the last day for what was sent back, and closed for what was accepted', () => {
    expect(takingAt(terms(), [taken('sent-back')], UNTIL + 1)).toEqual({ kind: 'taken', late: true })
    expect(takingAt(terms(), [taken('accepted')], UNTIL - 1)).toMatchObject({ kind: 'refused' })
  })

  it('waits for what is on its way, and is over when the call was taken back', () => {
    expect(takingAt(terms(), [{ state: 'checking', review: 'unseen' }], 0)).toMatchObject({ kind: 'refused' })
    expect(takingAt(terms({ withdrawn: true }), [], 0)).toMatchObject({ kind: 'refused' })
  })

  it('is never late before the last moment, nor in time after it', () => {
    const entry = fc.record({ state: fc.constantFrom(...ENTRY_STATES), review: fc.constantFrom(...REVIEWS) })
    const some = fc.record({ until: fc.integer(), late: fc.constantFrom('refused' as const, 'marked' as const), withdrawn: fc.boolean() })
    fc.assert(
      fc.property(some, fc.array(entry, { maxLength: 4 }), fc.integer(), (call, entries, now) => {
        const found = takingAt(call, entries, now)
        if (found.kind === 'taken') expect(found.late).toBe(now > call.until)
      }),
    )
  })

  it('counts the newest that was taken', () => {
    const [newest, older] = [taken('seen'), taken()]
    expect(countedEntry([{ state: 'refused', review: 'unseen' }, newest, older])).toBe(newest)
    expect(countedEntry([{ state: 'making', review: 'unseen' }])).toBeNull()
  })
})

describe('names of entries', () => {
  const entry = (name: string, talk = 'Knots') => ({ name, talk, date: '2026-11-26', fields: {} })

  it('follow a pattern, sort as the list does, and take what was filled in', () => {
    const fields = { paper: '12' }
    expect(entryNames('{number}-{paper}-{name}', [{ ...entry('Ilse Rook'), fields }, entry('Ode Marr')])).toEqual([
      '01-12-Ilse Rook',
      '02-Ode Marr',
    ])
  })

  it('are never alike, whatever people are called, and leave the folder for none', () => {
    const entries = fc.array(fc.record({ name: fc.string(), talk: fc.string(), date: fc.constant('2026-11-26'), fields: fc.constant({}) }))
    fc.assert(
      fc.property(fc.constantFrom('{name}', '{talk}', '{name}-{talk}', 'same', ''), entries, (pattern, all) => {
        const names = entryNames(pattern, all)
        expect(new Set(names.map((one) => one.toLowerCase())).size).toBe(all.length)
        for (const one of names) expect(one).not.toMatch(/[/\\]|^\.|^$/)
      }),
    )
  })
})

describe('a register as a table', () => {
  const line: RegisterLine = {
    name: '=1+1',
    address: 'ilse@harbour.example',
    talk: 'Knots, "all" of them',
    handedIn: '2026-11-26T10:00:00.000Z',
    late: true,
    length: 61.25,
    limit: 60,
    faults: 'It is 1:01: 0:01 too long.',
    state: 'sent-back',
    remark: 'Shorter,\nplease',
    file: '01-Ilse.mp4',
  }

  it('can be read back, and holds no formula', () => {
    const { data } = Papa.parse<Record<string, string>>(registerTable([line]), { header: true, skipEmptyLines: true })
    expect(data).toEqual([
      expect.objectContaining({ talk: line.talk, remark: line.remark, late: 'true', 'length (s)': '61.3', 'limit (s)': '60' }),
    ])
    expect(data[0]?.['name']).toBe("'=1+1")
  })

  it('says nothing of what was not handed in', () => {
    const none = { ...line, talk: '', handedIn: '', late: false, length: null, limit: null, faults: '', state: '', remark: '', file: '' }
    const { data } = Papa.parse<Record<string, string>>(registerTable([none]), { header: true, skipEmptyLines: true })
    expect(data[0]).toMatchObject({ late: '', 'length (s)': '', 'limit (s)': '' })
  })
})

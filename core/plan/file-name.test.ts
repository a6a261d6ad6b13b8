import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { emptyFields, fileName, ownFields, withoutEnding } from '.'

const KNOWN = { talk: 'The rule of twelfths', date: '2026-11-26', lines: '1080', slide: 'Why the water comes back', number: '03' }

describe('a name by a pattern', () => {
  it("has its fields filled in, the talk's own and those that were said", () => {
    expect(fileName('{paper}-{surname}', KNOWN, { paper: '117', surname: 'Okonjo' })).toBe('117-Okonjo')
    expect(fileName('{date} {talk} ({lines})', KNOWN, {})).toBe('2026-11-26 The rule of twelfths (1080)')
    expect(fileName('{number}-{slide}', KNOWN, {})).toBe('03-Why the water comes back')
  })

  it('leaves out what was not said, with the mark before it', () => {
    expect(fileName('{paper}-{surname}', KNOWN, { surname: 'Okonjo' })).toBe('Okonjo')
    expect(fileName('{talk}_{paper}_{surname}', KNOWN, { surname: 'Okonjo' })).toBe('The rule of twelfths_Okonjo')
    expect(fileName('{paper}', KNOWN, {})).toBe('The rule of twelfths')
  })

  it('is one that every file system takes, whatever is filled in, and never empty', () => {
    fc.assert(
      fc.property(
        fc.string({ unit: 'grapheme', maxLength: 60 }),
        fc.string({ unit: 'grapheme', minLength: 1, maxLength: 300 }),
        fc.string({ unit: 'grapheme' }),
        (pattern, talk, said) => {
          const name = fileName(`${pattern}{paper}`, { ...KNOWN, talk: `t${talk}` }, { paper: said })
          expect(name).toMatch(/^[^/\\:*?"<>|\p{Cc}]+$/u)
          expect(new TextEncoder().encode(name).length).toBeLessThanOrEqual(200)
          expect(name).not.toMatch(/^\.|[ .]$/)
        },
      ),
    )
  })

  it('is never hidden, also where spaces stand before its dots', () => {
    expect(fileName(' .{paper}', KNOWN, { paper: '0' })).toBe('0')
    expect(fileName('..{paper}', KNOWN, { paper: '. .x' })).toBe('x')
  })

  it('keeps the marks that were written, and fields of any name', () => {
    expect(fileName('A - B', KNOWN, {})).toBe('A - B')
    expect(fileName('{talk} - {paper} - x', KNOWN, {})).toBe('The rule of twelfths - x')
    expect(fileName('a-{constructor}', KNOWN, {})).toBe('a')
    expect(fileName('{paper}', KNOWN, { paper: '潮'.repeat(120) })).toBe('潮'.repeat(66))
    expect(fileName('con', KNOWN, {})).toBe('talk-con')
    expect(fileName('{paper}', KNOWN, { paper: 'LPT1.old' })).toBe('talk-LPT1.old')
    expect(fileName('console', KNOWN, {})).toBe('console')
  })

  it('loses the ending of its format and nothing else', () => {
    expect(['talk.mp4', 'talk.WebM', 'talk.v2', 'mp3'].map(withoutEnding)).toEqual(['talk', 'talk', 'talk.v2', 'mp3'])
  })

  it('tells which fields the presenter is asked for', () => {
    expect(ownFields('{paper}-{surname}-{talk}-{paper}')).toEqual(['paper', 'surname'])
    expect(emptyFields('{paper}-{surname}', { paper: ' ', surname: 'Okonjo' })).toEqual(['paper'])
    expect(ownFields('no {Field} here {')).toEqual([])
  })
})

import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readPeople } from '.'

const [MAREN, TOMAS] = [
  { address: 'maren@harbour.example', name: 'Maren Holt' },
  { address: 'tomas@harbour.example', name: 'Tomas Reed' },
]

describe('people out of a list', () => {
  it('are read as letters name them, from tables, and from a row of addresses', () => {
    for (const text of [
      'Maren Holt <maren@harbour.example>\n"Tomas Reed" <Tomas@Harbour.example>',
      'Name;E-mail\r\nMaren Holt;maren@harbour.example\r\n\r\nTomas Reed;tomas@harbour.example',
      'first,last,mail\nMaren,Holt,maren@harbour.example\nTomas,Reed,tomas@harbour.example\n',
      'maren@harbour.example\tMaren Holt\ntomas@harbour.example\tTomas Reed',
      'Maren Holt <maren@harbour.example>, Tomas Reed <tomas@harbour.example>',
    ])
      expect([text, readPeople(text)]).toEqual([text, { people: [MAREN, TOMAS], unread: [] }])
    expect(readPeople('maren@harbour.example, tomas@harbour.example').people.map(({ address }) => address)).toEqual([
      MAREN?.address,
      TOMAS?.address,
    ])
  })

  it('leave out whom they have twice, and say which lines name nobody', () => {
    expect(readPeople('maren@harbour.example\nMaren <MAREN@harbour.example>\nnobody\n@ @\nmaren@,x\n')).toEqual({
      people: [{ address: 'maren@harbour.example', name: '' }],
      unread: [
        { line: 3, text: 'nobody' },
        { line: 4, text: '@ @' },
        { line: 5, text: 'maren@,x' },
      ],
    })
  })

  it('are found among anything else, five hundred of them too', () => {
    const noise = fc.stringMatching(/^[a-z .!?-]{1,30}$/).filter((text) => text.trim() !== '')
    fc.assert(
      fc.property(fc.array(noise, { minLength: 1, maxLength: 20 }), (wrong) => {
        const right = Array.from({ length: 500 }, (_, n) => `Pupil ${String(n)} <p${String(n)}@harbour.example>`)
        const { people, unread } = readPeople(['people', ...right.slice(0, 250), ...wrong, ...right.slice(250)].join('\n'))
        expect(people).toHaveLength(500)
        expect(unread.map(({ line }) => line)).toEqual(wrong.map((_, n) => 252 + n))
      }),
      { numRuns: 10 },
    )
  })
})

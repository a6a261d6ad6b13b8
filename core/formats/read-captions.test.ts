import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Caption } from '@core/model'
import { readCaptions, subRip, webVtt } from '.'

describe('a caption file', () => {
  it('is read as WebVTT: without notes, styles, names of voices and settings', () => {
    const file = `WEBVTT - Tides

NOTE
00:01.000 is when it begins

STYLE
::cue { color: lime }

first
00:01.000 --> 00:02.500 line:0 align:start
<v Orla Fenwick>The <i>tide</i> turns
twice a day &amp; night.

01:00:00.020 --> 01:00:01.000
Nobody sails.
`
    expect(readCaptions(file)).toEqual([
      { from: 1000, until: 2500, text: 'The tide turns twice a day & night.' },
      { from: 3_600_020, until: 3_601_000, text: 'Nobody sails.' },
    ])
  })

  it('is read as SubRip, with the line ends and marks of other systems, out of order, and without what makes no sense', () => {
    const file =
      '\uFEFF2\r\n00:00:04,000 --> 00:00:05,5\r\n{\\an8}calm\r\n\r\n1\r\n00:00:01,000 --> 00:00:02,000\r\nSkerrow\r\n\r\n' +
      '3\r\n00:00:09,000 --> 00:00:08,000\r\nbackwards\r\n\r\n4\r\n00:00:10,000 --> 00:00:11,000\r\n\r\n'
    expect(readCaptions(file)).toEqual([
      { from: 1000, until: 2000, text: 'Skerrow' },
      { from: 4000, until: 5500, text: 'calm' },
    ])
    expect(['', 'Dear sir,\n\nno captions here.', '\u0000\u0001'].map(readCaptions)).toEqual([[], [], []])
  })

  it('says what it said when it is written here and read again', () => {
    const word = fc.stringMatching(/^[a-zé&<>'-]{1,9}$/u)
    const captions = fc
      .array(
        fc.record({
          pause: fc.integer({ min: 1, max: 90_000 }),
          length: fc.integer({ min: 1, max: 7000 }),
          words: fc.array(word, { minLength: 1, maxLength: 8 }),
        }),
      )
      .map((list) => {
        let at = 0
        return list.map(({ pause, length, words }): Caption => {
          at += pause + length
          const half = Math.ceil(words.length / 2)
          return {
            from: at - length,
            until: at,
            lines: [words.slice(0, half).join(' '), words.slice(half).join(' ')].filter((line) => line !== ''),
          }
        })
      })
    fc.assert(
      fc.property(captions, (written) => {
        const said = written.map(({ from, until, lines }) => ({ from, until, text: lines.join(' ') }))
        expect(readCaptions(webVtt(written))).toEqual(said)
      }),
    )
    expect(readCaptions(subRip([{ from: 0, until: 1500, lines: ['calm', 'tonight'] }]))).toEqual([
      { from: 0, until: 1500, text: 'calm tonight' },
    ])
  })
})

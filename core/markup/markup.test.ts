import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { USUAL_PAUSE, blocksOf, inlineRuns, pauseMark, pausesIn, spokenLines, withoutPauses, wordsOf } from '.'

describe('blocks', () => {
  it('keep lists with their depth and numbers, quotes, code and tables', () => {
    const text = 'Low water\n\n- one\n  - two\n\n3. three\n4. four\n\n> quoted *so*\n\n```\nline 1\nline 2\n```\n\n| a | b |\n|---|---|\n| 1 | 2 |\n\n***'
    expect(blocksOf(text).map((block) => (block.kind === 'item' ? ['item', block.depth, block.ordinal] : block.kind === 'code' ? ['code', ...block.lines] : block.kind === 'table' ? ['table', block.head.length, block.rows.length] : [block.kind])))
      .toEqual([['paragraph'], ['item', 0, null], ['item', 1, null], ['item', 0, 3], ['item', 0, 4], ['quote'], ['code', 'line 1', 'line 2'], ['table', 2, 1], ['rule']])
  })

  it('tell bold, italic and code apart, and show HTML as the text it is', () => {
    expect(inlineRuns('a **b** *c* `d`').map((run) => [run.text, run.bold, run.italic, run.code])).toEqual([
      ['a ', false, false, false], ['b', true, false, false], [' ', false, false, false], ['c', false, true, false], [' ', false, false, false], ['d', false, false, true],
    ])
    expect(wordsOf('<b>not</b> bold')).toBe('<b>not</b> bold')
  })

  it('give their words without markup', () => {
    expect(wordsOf('# Head\n\n- **a**\n- b\n\n| x | y |\n|---|---|\n| 1 | 2 |')).toBe('Head\na\nb\nx y\n1 2')
  })
})

describe('pauses', () => {
  it('count in the plan with the seconds they name, and are not said', () => {
    expect(pausesIn(`Look. ${pauseMark()} And ${pauseMark(5)} now [PAUSE 3].`)).toBe(USUAL_PAUSE + 8000)
    expect(withoutPauses('a [pause] b').replace(/\s+/g, ' ')).toBe('a b')
    expect(pausesIn('No [pausing] here')).toBe(0)
  })
})

describe('lines to read from', () => {
  const shown = (notes: string) => spokenLines(notes).map((line) => (line.kind === 'pause' ? line.length : line.runs.map((run) => (run.bold ? `<${run.text}>` : run.text)).join('').trim()))

  it('are sentences, breaks and pauses in order, with what is bold kept', () => {
    expect(shown('Look at **the pier**. Who waits?\nNobody [pause 3] does.\n\n- one\n- two')).toEqual(['Look at <the pier>.', 'Who waits?', 'Nobody', 3000, 'does.', 'one', 'two'])
    expect(shown('He said “Go.” Then (softly!) more…')).toEqual(['He said “Go.”', 'Then (softly!)', 'more…'])
    expect(shown('')).toEqual([])
  })

  it('lose no word, whatever is written', () => {
    fc.assert(fc.property(fc.array(fc.stringMatching(/^[a-z]{1,8}[.!?,]?$/), { maxLength: 30 }), (words) => {
      expect(shown(words.join(' ')).join(' ').split(/\s+/).filter((word) => word !== '')).toEqual(words)
    }))
  })
})

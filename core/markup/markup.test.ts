import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { USUAL_PAUSE, blocksOf, inlineRuns, pauseMark, pausesIn, spokenLines, withoutPauses, wordsOf } from '.'

describe('blocks', () => {
  it('keep lists with their depth and numbers, quotes, code and tables', () => {
    const text =
      'Low water\n\n- one\n  - two\n\n3. three\n4. four\n\n> quoted *so*\n\n```\nline 1\nline 2\n```\n\n| a | b |\n|---|---|\n| ' +
      '1 | 2 |\n\n***'
    expect(
      blocksOf(text).map((block) => {
        if (block.kind === 'item') return ['item', block.depth, block.ordinal]
        if (block.kind === 'code') return ['code', ...block.lines]
        return block.kind === 'table' ? ['table', block.head.length, block.rows.length] : [block.kind]
      }),
    ).toEqual([
      ['paragraph'],
      ['item', 0, null],
      ['item', 1, null],
      ['item', 0, 3],
      ['item', 0, 4],
      ['quote'],
      ['code', 'line 1', 'line 2'],
      ['table', 2, 1],
      ['rule'],
    ])
  })

  it('tell bold, italic and code apart, and show HTML as the text it is', () => {
    expect(inlineRuns('a **b** *c* `d`').map((run) => [run.text, run.bold, run.italic, run.code])).toEqual([
      ['a ', false, false, false],
      ['b', true, false, false],
      [' ', false, false, false],
      ['c', false, true, false],
      [' ', false, false, false],
      ['d', false, false, true],
    ])
    expect(wordsOf('<b>not</b> bold')).toBe('<b>not</b> bold')
  })

  it('know a further paragraph of an item from a further item', () => {
    expect(
      blocksOf('1. one\n\n   more of it\n\n2. two').map((block) =>
        block.kind === 'item' ? [block.ordinal, block.more, block.runs[0]?.text] : [],
      ),
    ).toEqual([
      [1, false, 'one'],
      [1, true, 'more of it'],
      [2, false, 'two'],
    ])
  })

  it('say what a picture is called that stands in a sentence', () => {
    expect(wordsOf('Look at ![the pier](pier.png) now')).toBe('Look at the pier now')
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
  const shown = (notes: string) =>
    spokenLines(notes).map((line) =>
      line.kind === 'pause'
        ? line.length
        : line.runs
            .map((run) => (run.bold ? `<${run.text}>` : run.text))
            .join('')
            .trim(),
    )

  it('are sentences, breaks and pauses in order, with what is bold kept', () => {
    expect(shown('Look at **the pier**. Who waits?\nNobody [pause 3] does.\n\n- one\n- two')).toEqual([
      'Look at <the pier>.',
      'Who waits?',
      'Nobody',
      3000,
      'does.',
      'one',
      'two',
    ])
    expect(shown('He said “Go.” Then (softly!) more…')).toEqual(['He said “Go.”', 'Then (softly!)', 'more…'])
    expect(shown('')).toEqual([])
  })

  it.each([
    [
      'en',
      'It costs 3.50 a metre. See example.com for more! Is that so?',
      ['It costs 3.50 a metre.', 'See example.com for more!', 'Is that so?'],
    ],
    ['de', 'Um 12.30 Uhr ist Niedrigwasser. Wer wartet? Niemand.', ['Um 12.30 Uhr ist Niedrigwasser.', 'Wer wartet?', 'Niemand.']],
    ['fr', 'La mer monte. Qui attend ? Personne. Voilà !', ['La mer monte.', 'Qui attend ?', 'Personne.', 'Voilà !']],
    ['es', '¿Quién espera? Nadie. ¡Vamos!', ['¿Quién espera?', 'Nadie.', '¡Vamos!']],
    ['ar', 'من ينتظر؟ لا أحد. هيا بنا!', ['من ينتظر؟', 'لا أحد.', 'هيا بنا!']],
    ['hi', 'पानी चढ़ता है। पानी उतरता है। कौन देखता है?', ['पानी चढ़ता है।', 'पानी उतरता है।', 'कौन देखता है?']],
    ['zh', '潮水来了。谁在等？没有人！', ['潮水来了。', '谁在等？', '没有人！']],
    ['ja', '潮が来ます。誰が待つ？誰もいない！', ['潮が来ます。', '誰が待つ？', '誰もいない！']],
    ['ru', 'Вода пришла. Кто ждёт? Никто.', ['Вода пришла.', 'Кто ждёт?', 'Никто.']],
    ['el', 'Το νερό ήρθε. Ποιος περιμένει; Κανείς.', ['Το νερό ήρθε.', 'Ποιος περιμένει;', 'Κανείς.']],
    ['zh-yue', '潮水来了。谁在等？', ['潮水来了。', '谁在等？']],
  ])('end where sentences end: %s', (language, notes, lines) => {
    expect(
      spokenLines(notes, language).map((line) =>
        line.kind === 'words'
          ? line.runs
              .map((run) => run.text)
              .join('')
              .trim()
          : line.length,
      ),
    ).toEqual(lines)
  })

  it('end also where notes go on in small letters, but not behind an abbreviation', () => {
    expect(shown('first the pier. then e.g. the boats. who waits')).toEqual(['first the pier.', 'then e.g. the boats.', 'who waits'])
  })

  it('keep what stands behind a pause mark and a colon', () => {
    expect(shown('[pause]: look at it')).toEqual([2000, ': look at it'])
    expect(wordsOf('[pause 3]: look at it')).toContain('look at it')
  })

  it('lose no word, whatever is written', () => {
    fc.assert(
      fc.property(fc.array(fc.stringMatching(/^[a-z]{1,8}[.!?,]?$/), { maxLength: 30 }), (words) => {
        expect(
          shown(words.join(' '))
            .join(' ')
            .split(/\s+/)
            .filter((word) => word !== ''),
        ).toEqual(words)
      }),
    )
  })
})

import { describe, expect, it } from 'vitest'
import { storableText } from './storable-text'

describe('a text that is to be stored', () => {
  it('loses U+0000 and halves of pairs, and nothing else', () => {
    expect(storableText('Ti\u0000de\ud83dtable \ud83c\udf0a ends\udc00')).toBe('Tide\ufffdtable \ud83c\udf0a ends\ufffd')
    expect(storableText('Łódź, ﷽, 👩‍🏫\n\t')).toBe('Łódź, ﷽, 👩‍🏫\n\t')
  })
})

import { describe, expect, it } from 'vitest'
import { languageModel } from './language-model'

const MODEL = languageModel([
  ['the', 'tide', 'rises'],
  ['the', 'tide', 'falls'],
  ['count', 'the', 'swifts'],
])
/** Likelihoods of the words that are listed after some others, by the ARPA format. */
const after = (before: string): number[] => {
  const section = MODEL.split(/\\\d-grams:\n/)[before === '' ? 1 : before.split(' ').length + 1] ?? ''
  return section.split('\n').flatMap((line) => {
    const [log, ...words] = line.split(' ')
    return before !== '' && words.slice(0, before.split(' ').length).join(' ') === before ? [10 ** Number(log)] : []
  })
}

describe('a model of what is said next', () => {
  it('counts what it lists', () => {
    const counts = [...MODEL.matchAll(/^ngram (\d)=(\d+)$/gm)].map(([, , count]) => Number(count))
    const listed = MODEL.split(/\\\d-grams:\n/)
      .slice(1)
      .map((section) => section.split('\n').filter((line) => /^-?\d/.test(line)).length)
    expect(listed).toEqual(counts)
  })

  it('leaves a share for words that were not seen in a context, and prefers those that were', () => {
    for (const before of ['the', 'the tide', '<s>']) {
      const sum = after(before).reduce((all, one) => all + one, 0)
      expect(sum).toBeGreaterThan(0.4)
      expect(sum).toBeLessThan(1)
    }
    expect(after('the')[0]).toBeGreaterThan(after('the')[1] ?? 1)
  })

  it('is one even where nothing is written', () => {
    expect(languageModel([])).toMatch(/ngram 1=2\n/)
  })
})

/** What is taken off every count for what was not seen (absolute discounting: Ney, Essen, Kneser 1994). */
const DISCOUNT = 0.5
const LEAST = 1e-9

/** What followed some words, and how often. */
interface Context {
  total: number
  readonly next: Map<string, number>
}

function countInto(contexts: Map<string, Context>, before: string, word: string): void {
  const context = contexts.get(before) ?? { total: 0, next: new Map<string, number>() }
  context.total += 1
  context.next.set(word, (context.next.get(word) ?? 0) + 1)
  contexts.set(before, context)
}

const log = (p: number): string => Math.log10(Math.max(p, LEAST)).toFixed(4)

/** What is left of a context's probability for words that were not seen in it, over theirs without it. */
function backOff(context: Context | undefined, without: (word: string) => number): number {
  if (context === undefined) return 1
  let seen = 0
  for (const word of context.next.keys()) seen += without(word)
  return (DISCOUNT * context.next.size) / context.total / Math.max(LEAST, 1 - seen)
}

/**
 * A model of what is probably said next: three words in a row as in some sentences.
 * @param sentences as sounds
 * @returns it in the ARPA format for N-gram models, which recognisers read
 */
export function languageModel(sentences: readonly (readonly string[])[]): string {
  const single: Context = { total: 0, next: new Map() }
  const pairs = new Map<string, Context>()
  const triples = new Map<string, Context>()
  for (const sentence of sentences) {
    const words = ['<s>', ...sentence, '</s>']
    words.forEach((word, n) => {
      const [one, two] = [words[n - 1], words[n - 2]]
      if (one === undefined) return
      single.total += 1
      single.next.set(word, (single.next.get(word) ?? 0) + 1)
      countInto(pairs, one, word)
      if (two !== undefined) countInto(triples, `${two} ${one}`, word)
    })
  }
  const ofOne = (word: string): number => (single.next.get(word) ?? 0) / Math.max(1, single.total)
  const seenIn = (context: Context | undefined, word: string): number =>
    context === undefined ? 0 : Math.max(0, (context.next.get(word) ?? 0) - DISCOUNT) / context.total
  const vocabulary = [...new Set(['<s>', '</s>', ...single.next.keys()])]
  const lines = [
    '\\data\\',
    `ngram 1=${String(vocabulary.length)}`,
    `ngram 2=${String([...pairs.values()].reduce((count, { next }) => count + next.size, 0))}`,
    `ngram 3=${String([...triples.values()].reduce((count, { next }) => count + next.size, 0))}`,
    '',
    '\\1-grams:',
  ]
  for (const word of vocabulary) lines.push(`${word === '<s>' ? '-99' : log(ofOne(word))} ${word} ${log(backOff(pairs.get(word), ofOne))}`)
  lines.push('', '\\2-grams:')
  for (const [one, context] of pairs) {
    for (const word of context.next.keys()) {
      const rest = backOff(triples.get(`${one} ${word}`), (next) => seenIn(pairs.get(word), next))
      lines.push(`${log(seenIn(context, word))} ${one} ${word} ${log(rest)}`)
    }
  }
  lines.push('', '\\3-grams:')
  for (const [before, context] of triples)
    for (const word of context.next.keys()) lines.push(`${log(seenIn(context, word))} ${before} ${word}`)
  return `${[...lines, '', '\\end\\'].join('\n')}\n`
}

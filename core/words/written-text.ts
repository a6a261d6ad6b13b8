import { spokenLines } from '@core/markup'
import type { WrittenText } from './align'
import { spokenForm } from './spoken-form'

/**
 * Notes or another text with markup, as it is read aloud.
 * @param language BCP 47 tag
 */
export function writtenText(markup: string, language: string): WrittenText {
  const words: string[] = []
  const tokens: { sound: string; word: number }[] = []
  const begins = new Set<number>()
  for (const line of spokenLines(markup, language)) {
    if (line.kind === 'pause') continue
    const spoken = spokenForm(line.runs.map(({ text }) => text).join(''), language)
    if (spoken.tokens.length > 0) begins.add(tokens.length)
    tokens.push(...spoken.tokens.map(({ sound, word }) => ({ sound, word: word + words.length })))
    words.push(...spoken.words)
  }
  return { words, tokens, begins }
}

/** Sentences of a text, as sounds. */
export function sentencesOf({ tokens, begins }: WrittenText): readonly (readonly string[])[] {
  const sentences: string[][] = []
  tokens.forEach(({ sound }, n) => {
    if (begins.has(n) || sentences.length === 0) sentences.push([])
    sentences.at(-1)?.push(sound)
  })
  return sentences
}

/** Sentences of a text as their words are written, in order. */
export function sentenceTexts({ words, tokens, begins }: WrittenText): readonly (readonly string[])[] {
  const firsts = [...begins].map((token) => tokens[token]?.word ?? 0).sort((one, other) => one - other)
  return firsts.map((first, n) => words.slice(first, firsts[n + 1] ?? words.length))
}

import type { Ms } from '@core/model'
import { blocksOf } from './blocks'
import type { Block, Run } from './blocks'
import { pausesIn } from './pauses'

/** A line to be read from: words said in a breath, or a pause. */
export type SpokenLine = { readonly kind: 'words'; readonly runs: readonly Run[] } | { readonly kind: 'pause'; readonly length: Ms }

/** A pause mark, a break, or what stands between them. */
const PARTS = /\[pause(?:\s+\d{1,3})?\]|\n|[^\n[]+|\[/gi
const PAUSE = /^\[pause/i
/**
 * A full stop after a whole word ends a sentence also where a small letter follows, as in notes written in haste; after a short one it
 * may be an abbreviation.
 */
const BEFORE_SMALL = /(?<=[^\s.]{4}\.["'”’)\]]*\s+)(?=\p{Ll})/u
const PLAIN = { bold: false, italic: false, code: false } as const

const segmenters = new Map<string, Intl.Segmenter>()

/** Finds sentences as a language ends them (UAX 29, by ECMA-402); of a language that the platform does not know as most do. */
function sentencesBy(language: string): Intl.Segmenter {
  const known = segmenters.get(language)
  if (known !== undefined) return known
  let made: Intl.Segmenter
  try {
    made = new Intl.Segmenter(language, { granularity: 'sentence' })
  } catch {
    made = new Intl.Segmenter('und', { granularity: 'sentence' })
  }
  segmenters.set(language, made)
  return made
}

/** Text of a block with its runs' places, a line of a table or of code a line of its own. */
function runsOf(block: Block): readonly Run[] {
  switch (block.kind) {
    case 'code':
      return block.lines.map((text) => ({ ...PLAIN, text: `${text}\n`, code: true }))
    case 'table':
      return [block.head, ...block.rows].flatMap((row) => [...row.flat(), { ...PLAIN, text: '\n' }])
    case 'rule':
      return []
    default:
      return block.runs
  }
}

/** The part of runs that lies between two places of their text. */
function partOfRuns(runs: readonly Run[], from: number, to: number): readonly Run[] {
  let at = 0
  return runs.flatMap((run): Run[] => {
    const start = at
    at += run.text.length
    const text = run.text.slice(Math.max(0, from - start), Math.max(0, to - start))
    return text === '' ? [] : [{ ...run, text }]
  })
}

/**
 * Notes as lines to be read from: a sentence a line, breaks kept, pauses lines of their own, bold and italic kept.
 * @param language that they are written in, as a BCP 47 tag: it decides where sentences end
 */
export function spokenLines(notes: string, language = 'und'): readonly SpokenLine[] {
  const lines: SpokenLine[] = []
  const segmenter = sentencesBy(language)
  const say = (runs: readonly Run[], from: number, to: number): void => {
    const text = runs
      .map((run) => run.text)
      .join('')
      .slice(from, to)
    for (const { segment, index } of segmenter.segment(text)) {
      let at = from + index
      for (const part of segment.split(BEFORE_SMALL)) {
        if (part.trim() !== '') lines.push({ kind: 'words', runs: partOfRuns(runs, at, at + part.length) })
        at += part.length
      }
    }
  }
  // A break in notes is a break, not a space.
  for (const block of blocksOf(notes.replace(/([^\n])\n(?=[^\n])/g, '$1  \n'))) {
    const runs = runsOf(block)
    const text = runs.map((run) => run.text).join('')
    let said = 0
    for (const { 0: part, index } of text.matchAll(PARTS)) {
      const pause = PAUSE.test(part) && part.endsWith(']')
      if (!pause && part !== '\n') continue
      say(runs, said, index)
      said = index + part.length
      if (pause) lines.push({ kind: 'pause', length: pausesIn(part) })
    }
    say(runs, said, text.length)
  }
  return lines
}

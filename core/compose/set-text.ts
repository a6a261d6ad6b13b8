import { dequal } from 'dequal'
import type { Run } from '@core/markup'
import type { Font } from './faces'
import { breaksBetween, textWidth } from './metrics'

/** A run on a line: where it begins and how it is set. */
export interface SetRun {
  readonly x: number
  readonly width: number
  readonly text: string
  readonly font: Font
}

export interface SetLine {
  /** Below the text's top. */
  readonly top: number
  readonly runs: readonly SetRun[]
  /** Right to left. */
  readonly rtl: boolean
}

/** Where a line that would begin at a height below the text's top may run, from left to right; it may have to begin lower. */
export type LineRoom = (top: number) => { readonly left: number; readonly right: number; readonly top: number }

interface Word {
  readonly text: string
  readonly font: Font
  readonly width: number
  readonly space: boolean
  readonly breaks: boolean
}

const RTL = /[\u0590-\u08FF\uFB1D-\uFDFF\uFE70-\uFEFC]/

/** Whether a text runs from right to left: its first letter says so. */
export const isRightToLeft = (text: string): boolean => RTL.test(/\p{L}/u.exec(text)?.[0] ?? '')

const fontOf = (run: Run, font: Font): Font => ({
  ...font,
  face: run.code ? 'code' : font.face,
  bold: font.bold || run.bold,
  italic: font.italic || run.italic,
  size: run.code ? font.size * 0.92 : font.size,
})

/** Cuts runs where lines may break: after spaces, and between East Asian signs. */
function wordsOfRuns(runs: readonly Run[], font: Font): readonly Word[] {
  const words: Word[] = []
  for (const run of runs) {
    const set = fontOf(run, font)
    for (const part of run.text.split(/(\n|[^\S\n]+)/)) {
      if (part === '') continue
      if (part === '\n') {
        words.push({ text: '', font: set, width: 0, space: false, breaks: true })
        continue
      }
      const space = part.trim() === ''
      let piece = ''
      let last = ''
      const put = (): void => {
        if (piece !== '') words.push({ text: piece, font: set, width: textWidth(piece, set), space, breaks: false })
        piece = ''
      }
      for (const sign of part) {
        if (last !== '' && breaksBetween(last, sign)) put()
        piece += sign
        last = sign
      }
      put()
    }
  }
  return words
}

/** A word that no line can hold in two: as much as fits, and the rest. */
function splitWord(word: Word, width: number): readonly [Word, Word] {
  const signs = Array.from(word.text)
  let fits = 1
  while (fits < signs.length - 1 && textWidth(signs.slice(0, fits + 1).join(''), word.font) <= width) fits += 1
  const part = (text: string): Word => ({ ...word, text, width: textWidth(text, word.font) })
  return [part(signs.slice(0, fits).join('')), part(signs.slice(fits).join(''))]
}

/**
 * Sets runs into lines.
 * @param lineHeight from one line to the next, in layout units
 * @param room says how far each line may reach, so that text flows round what stands in its way
 */
export function setText(runs: readonly Run[], font: Font, lineHeight: number, room: LineRoom): readonly SetLine[] {
  const words = [...wordsOfRuns(runs, font)].reverse()
  const rtl = isRightToLeft(runs.map((run) => run.text).join(''))
  const lines: SetLine[] = []
  let line: Word[] = []
  let width = 0
  let place = room(0)
  const close = (): void => {
    while (line.at(-1)?.space === true) line.pop()
    const all = line.reduce((sum, word) => sum + word.width, 0)
    let x = rtl ? place.right - all : place.left
    // Words beside each other that are set alike are one run; of a line from right to left the last comes first.
    const joined: SetRun[] = []
    for (const word of rtl ? grouped(line).reverse() : grouped(line)) {
      joined.push({ x, width: word.width, text: word.text, font: word.font })
      x += word.width
    }
    lines.push({ top: place.top, runs: joined, rtl })
    line = []
    width = 0
    place = room(place.top + lineHeight)
  }
  for (let word = words.pop(); word !== undefined; word = words.pop()) {
    const wide = place.right - place.left
    if (word.breaks) {
      close()
    } else if (word.space) {
      if (line.length > 0) line.push(word)
      width += line.length > 0 ? word.width : 0
    } else if (width + word.width <= wide + 1e-6 || (line.length === 0 && Array.from(word.text).length === 1)) {
      line.push(word)
      width += word.width
    } else if (line.length > 0) {
      close()
      words.push(word)
    } else {
      const [head, rest] = splitWord(word, wide)
      line.push(head)
      close()
      words.push(rest)
    }
  }
  if (line.length > 0 || lines.length === 0) close()
  return lines
}

function grouped(words: readonly Word[]): Word[] {
  const out: Word[] = []
  for (const word of words) {
    const last = out.at(-1)
    if (last !== undefined && dequal(last.font, word.font)) {
      out[out.length - 1] = { ...last, text: last.text + word.text, width: last.width + word.width }
    } else {
      out.push(word)
    }
  }
  return out
}

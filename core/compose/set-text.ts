import type { Run } from '@core/markup'
import type { Font } from './faces'
import { breaksAnywhere, textWidth } from './metrics'

/** A run on a line: where it begins and how it is set. */
export interface SetRun {
  readonly x: number
  readonly width: number
  readonly text: string
  readonly font: Font
}

export interface SetLine {
  readonly runs: readonly SetRun[]
  /** Right to left. */
  readonly rtl: boolean
}

/** Where a line may run, from left to right, at a height below the text's top. */
export type LineRoom = (top: number) => { readonly left: number, readonly right: number }

interface Word { readonly text: string, readonly font: Font, readonly width: number, readonly space: boolean, readonly breaks: boolean }

const RTL = /[\u0590-\u08FF\uFB1D-\uFDFF\uFE70-\uFEFC]/

const fontOf = (run: Run, font: Font): Font =>
  ({ ...font, face: run.code ? 'code' : font.face, bold: font.bold || run.bold, italic: font.italic || run.italic, size: run.code ? font.size * 0.92 : font.size })

/** Cuts runs where lines may break: after spaces, between East Asian signs, and inside words that no line could hold. */
function wordsOfRuns(runs: readonly Run[], font: Font, widest: number): readonly Word[] {
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
      const put = (): void => {
        if (piece !== '') words.push({ text: piece, font: set, width: textWidth(piece, set), space, breaks: false })
        piece = ''
      }
      for (const sign of part) {
        if (piece !== '' && (breaksAnywhere(sign) || (!space && textWidth(piece + sign, set) > widest))) put()
        piece += sign
      }
      put()
    }
  }
  return words
}

/**
 * Sets runs into lines.
 * @param lineHeight from one line to the next, in layout units
 * @param room says how far each line may reach, so that text flows round what stands in its way
 */
export function setText(runs: readonly Run[], font: Font, lineHeight: number, room: LineRoom): readonly SetLine[] {
  const first = room(0)
  const words = wordsOfRuns(runs, font, Math.max(font.size * 2, first.right - first.left))
  const rtl = RTL.test(words.find((word) => /\p{L}/u.test(word.text))?.text ?? '')
  const lines: SetLine[] = []
  let line: Word[] = []
  let width = 0
  const close = (): void => {
    while (line.at(-1)?.space === true) line.pop()
    const { left, right } = room(lines.length * lineHeight)
    const all = line.reduce((sum, word) => sum + word.width, 0)
    let x = rtl ? right - all : left
    // Words beside each other that are set alike are one run; of a line from right to left the last comes first.
    const joined: SetRun[] = []
    for (const word of rtl ? grouped(line).reverse() : grouped(line)) {
      joined.push({ x, width: word.width, text: word.text, font: word.font })
      x += word.width
    }
    lines.push({ runs: joined, rtl })
    line = []
    width = 0
  }
  for (const word of words) {
    if (word.breaks) {
      close()
      continue
    }
    const { left, right } = room(lines.length * lineHeight)
    if (!word.space && line.length > 0 && width + word.width > right - left) close()
    if (word.space && line.length === 0) continue
    line.push(word)
    width += word.width
  }
  if (line.length > 0 || lines.length === 0) close()
  return lines
}

function grouped(words: readonly Word[]): Word[] {
  const out: Word[] = []
  for (const word of words) {
    const last = out.at(-1)
    if (last !== undefined && JSON.stringify(last.font) === JSON.stringify(word.font)) {
      out[out.length - 1] = { ...last, text: last.text + word.text, width: last.width + word.width }
    } else {
      out.push(word)
    }
  }
  return out
}

import type { Ms } from '@core/model'
import { blocksOf } from './blocks'
import type { Run } from './blocks'
import { pausesIn } from './pauses'

/** A line to be read from: words said in a breath, or a pause. */
export type SpokenLine =
  | { readonly kind: 'words', readonly runs: readonly Run[] }
  | { readonly kind: 'pause', readonly length: Ms }

/** A sentence's end with what closes it, or a pause mark, or a break. */
const PARTS = /\[pause(?:\s+\d{1,3})?\]|\n|[^.!?…。！？\n[]+(?:[.!?…。！？]+["'”’)\]]*|(?=\n|\[|$))\s*|[^\n]/gi
const ENDS = /[.!?…。！？]["'”’)\]]*\s*$/
const PAUSE = /^\[pause/i

/**
 * Notes as lines to be read from: a sentence a line, breaks kept, pauses lines of their own, bold and italic kept.
 */
export function spokenLines(notes: string): readonly SpokenLine[] {
  const lines: SpokenLine[] = []
  let line: Run[] = []
  const close = (): void => {
    const text = line.map((run) => run.text).join('')
    if (text.trim() !== '') lines.push({ kind: 'words', runs: line })
    line = []
  }
  // A break in notes is a break, not a space.
  for (const block of blocksOf(notes.replace(/([^\n])\n(?=[^\n])/g, '$1  \n'))) {
    const runs: readonly Run[] = block.kind === 'code' ? block.lines.map((text) => ({ text: `${text}\n`, bold: false, italic: false, code: true }))
      : block.kind === 'table' ? [block.head, ...block.rows].flatMap((row) => [...row.flat(), { text: '\n', bold: false, italic: false, code: false }])
        : block.kind === 'rule' ? [] : block.runs
    for (const run of runs) {
      for (const [part] of run.text.matchAll(PARTS)) {
        if (PAUSE.test(part)) {
          close()
          lines.push({ kind: 'pause', length: pausesIn(part) })
        } else if (part === '\n') {
          close()
        } else {
          line.push({ ...run, text: part })
          if (ENDS.test(part)) close()
        }
      }
    }
    close()
  }
  return lines
}

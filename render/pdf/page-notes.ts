import { storableText } from '@core/model'
import { pageOf, pageSize } from './open-pdf'
import type { PdfFile } from './open-pdf'
import type { Annotation } from './page-links'
import { pageWords } from './page-words'

/** Longest notes that are kept, in signs. */
const LONGEST = 20_000

/** Notes among what hangs on a page (ISO 32000-1, 12.5.6.4): office programs write the presenter's there. */
export function notesAmong(annotations: readonly Annotation[]): string {
  return annotations
    .flatMap(({ subtype, contentsObj }) => (subtype === 'Text' && typeof contentsObj?.str === 'string' ? [contentsObj.str.trim()] : []))
    .filter((words) => words !== '')
    .map((words) => storableText(words.replace(/\r\n?/g, '\n')))
    .join('\n\n')
    .slice(0, LONGEST)
}

/** Pages of a document that are notes pages behind its slides. */
export interface NotesPages {
  /** How many of its pages are slides: those before the first notes page. */
  readonly slides: number
  /** What stands on the notes page of each slide, beside what is on the slide itself. */
  readonly notes: readonly string[]
}

/** So many of the slides must stand on their notes pages, and so many of a slide's words. */
const MOSTLY = 0.8

/** Whether a page says what a slide says. */
function repeats(page: string, slide: string): boolean {
  const words = slide.split(/\s+/)
  const there = new Set(page.split(/\s+/))
  return words.filter((word) => there.has(word)).length >= words.length * MOSTLY
}

/** The words of a notes page without those of its slide, which stands on it small, and without its number. */
function withoutSlide(page: string, slide: string): string {
  const left = slide.split(/\s+/).filter((word) => word !== '')
  const words = page.split(/\s+/).filter((word) => word !== '')
  let at = 0
  // The small slide comes first, in the order of the large one.
  while (at < words.length && at < left.length && words[at] === left[at]) at += 1
  const rest = words.slice(at)
  if (/^\d{1,4}$/.test(rest.at(-1) ?? '')) rest.pop()
  return rest.join(' ')
}

/**
 * Finds the notes pages that an office program put behind the slides: as many again, upright where the slides lie, each with the words of
 * its slide and more.
 * @returns null when there are none
 */
export async function notesPages(pdf: PdfFile): Promise<NotesPages | null> {
  const half = pdf.numPages / 2
  if (!Number.isInteger(half)) return null
  const shapes = await Promise.all([1, half, half + 1, pdf.numPages].map(async (n) => pageSize(await pageOf(pdf, n))))
  const [first, last, note, end] = shapes.map(({ width, height }) => width > height)
  if (first !== true || last !== true || note !== false || end !== false) return null
  const notes: string[] = []
  let [worded, repeated] = [0, 0]
  for (let n = 1; n <= half; n += 1) {
    const page = await pageOf(pdf, half + n)
    const { width, height } = pageSize(page)
    if (width > height) return null
    const [slide, below] = [await pageWords(await pageOf(pdf, n)), await pageWords(page)]
    if (slide.text !== '') {
      worded += 1
      repeated += repeats(below.text, slide.text) ? 1 : 0
    }
    notes.push(storableText(withoutSlide(below.text, slide.text)).slice(0, LONGEST))
  }
  // Upright pages that say something else are slides of their own.
  return worded > 0 && repeated >= worded * MOSTLY ? { slides: half, notes } : null
}

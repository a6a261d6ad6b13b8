import { join } from 'node:path'
import { Refusal } from '@core/model'
import type { OfficeFinding } from '@core/office'
import { fontOf, openPdf, pageOf } from '@render/pdf'
import type { PdfFile } from '@render/pdf'
import { AS_ODP, AS_PDF, convertOffice } from './convert'
import type { OfficeConverter } from './convert'
import type { OfficeDeck, OfficeSlide } from './office-deck'
import type { OfficeKind } from './office-kind'
import { OfficePackage } from './office-package'
import { rewriteOdp } from './odp/rewrite-odp'
import { rewritePptx } from './pptx/rewrite-pptx'

/** An office deck and the document that shows it. */
export interface OpenedOffice extends OfficeDeck {
  readonly path: string
  readonly pdf: PdfFile
  /** For each slide the pages that are its states, counted from 1. */
  readonly groups: readonly (readonly number[])[]
  /** Takes a part of the file, such as a sound, out into a file. */
  readonly extract: (part: string, path: string) => Promise<void>
  /** Nothing more is taken out of it. */
  readonly close: () => void
}

export interface OpenOfficeOptions {
  readonly kind: OfficeKind
  /** Folder for what is made. */
  readonly out: string
  /** Begins the names of what is made. */
  readonly name: string
  readonly converter: OfficeConverter
  /** Most bytes that may come out of the file. */
  readonly mostBytes: number
  readonly mostPages: number
}

/** Pages of each slide, in the order in which they were made. */
function pagesOf(slides: readonly OfficeSlide[]): readonly (readonly number[])[] {
  let before = 0
  return slides.map(({ states }) => {
    const first = before + 1
    before += states.length
    return states.map((_, n) => first + n)
  })
}

/** What stands in for fonts that are not here, by the pages on which they were tried. */
async function standIns(pdf: PdfFile, first: number, trials: readonly string[]): Promise<readonly OfficeFinding[]> {
  const findings: OfficeFinding[] = []
  for (const [n, font] of trials.entries()) {
    const standIn = await fontOf(await pageOf(pdf, first + n))
    if (standIn !== '' && standIn.toLowerCase() !== font.toLowerCase()) findings.push({ kind: 'font', font, standIn })
  }
  return findings
}

/**
 * Opens an office deck: reads it, and makes a document with a page for each state of each slide.
 * @throws Refusal when it cannot be read or takes too much
 */
export async function openOffice(path: string, options: OpenOfficeOptions): Promise<OpenedOffice> {
  const { kind, out, converter, mostBytes } = options
  // An old file is made a newer one first: what is read of it is then read in one way.
  const newer = kind === 'ppt' ? await convertOffice(path, AS_ODP, out, converter) : path
  const file = await OfficePackage.open(newer, mostBytes)
  try {
    return await openPackage(file, options)
  } catch (error) {
    file.close()
    throw error
  }
}

async function openPackage(file: OfficePackage, { kind, out, name, converter, mostPages }: OpenOfficeOptions): Promise<OpenedOffice> {
  const still = join(out, `${name}-still.${kind === 'pptx' ? 'pptx' : 'odp'}`)
  const { slides, findings, trials } = await (kind === 'pptx' ? rewritePptx : rewriteOdp)(file, still, mostPages)
  const groups = pagesOf(slides)
  const pages = groups.reduce((sum, group) => sum + group.length, 0)
  if (pages > mostPages)
    throw new Refusal(
      'too-large',
      `This deck has more than ${String(mostPages)} slides and steps, which is more than can be taken in. Bring it in parts.`,
    )
  const made = await convertOffice(still, AS_PDF, out, converter)
  const pdf = await openPdf(made)
  if (pdf.numPages !== pages + trials.length)
    throw new Refusal('unreadable', 'This deck could not be read: not all of its slides came out. Export it as a PDF and bring that.')
  return {
    slides,
    findings: [...findings, ...(await standIns(pdf, pages + 1, trials))],
    path: made,
    pdf,
    groups,
    extract: (part, to) => file.extract(part, to),
    close: () => {
      file.close()
    },
  }
}

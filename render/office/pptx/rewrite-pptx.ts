import { posix } from 'node:path'
import type { OfficeFinding } from '@core/office'
import { missingFonts } from '../fonts'
import { writePackage, xmlPart } from '../office-package'
import type { OfficePackage, WrittenPart } from '../office-package'
import type { OfficeSlide } from '../office-deck'
import type { Rewritten } from '../rewritten'
import type { Document } from '../xml'
import { fontsIn, themeFonts } from './deck-fonts'
import { openPresentation } from './presentation'
import type { Presentation } from './presentation'
import { readSlide } from './read-slide'
import { relationOfType, relationsOf, relationsPart } from './relations'
import { keptRelations, slideCopy } from './slide-copy'
import { TemplateParts } from './templates'
import { SLIDE_TYPE, contentTypes, isLeftOut, mainPart, relationsXml, trialPage } from './written-parts'

/** Relations of the main part that are left out. */
const MAIN_LEFT_OUT: ReadonlySet<string> = new Set(['slide', 'vbaProject', 'font', 'customXml', 'commentAuthors', 'authors', 'tags'])

/**
 * Rewrites a deck in PresentationML so that each state of each slide is a slide of its own that stands still, and reads all that is not
 * seen on them. Nothing that lies outside the file is left in it.
 * @param path where the rewritten deck is put
 * @throws Refusal when it cannot be read
 */
export async function rewritePptx(file: OfficePackage, path: string, mostPages: number): Promise<Rewritten> {
  const presentation = await openPresentation(file)
  const folder = posix.join(posix.dirname(presentation.part), 'slides')
  const pageName = (at: number, state: number): string => posix.join(folder, `page${String(at)}-${String(state)}.xml`)
  const firstPages = new Map(presentation.slides.map(({ part }, at) => [part, pageName(at, 0)]))
  const slideParts = new Set(presentation.slides.flatMap(({ part }) => [part, relationsPart(part)]))
  const templates = new TemplateParts(file)
  const slides: OfficeSlide[] = []
  const findings: OfficeFinding[] = presentation.macros ? [{ kind: 'macros' }] : []
  const pages: string[] = []
  const fonts = new Set<string>()
  const themes = new Set<string>()
  let trials: readonly string[] = []

  async function* slidePages(): AsyncGenerator<WrittenPart> {
    for (const at of presentation.slides.keys()) {
      const read = await readSlide(file, presentation, at, templates)
      const kept = keptRelations(read.relations, firstPages)
      slides.push(read.slide)
      findings.push(...read.findings)
      for (const font of fontsIn(read.document)) fonts.add(font)
      const themed = `${relationOfType(read.relations, 'slideLayout')?.target ?? ''} ${String(read.slide.title === '')}`
      if (!themes.has(themed)) for await (const font of themeFonts(file, read.relations, read.slide.title !== '')) fonts.add(font)
      themes.add(themed)
      const copies = {
        ...read,
        slide: read.document,
        number: at + presentation.firstNumber,
        size: presentation.size,
        kept: new Set(kept.map(({ id }) => id)),
      }
      // A deck with more pages than are taken is refused by whoever reads them: they need not all be made.
      for (const [n, state] of read.states.entries()) {
        if (pages.length > mostPages) return
        const name = pageName(at, n)
        pages.push(name)
        yield xmlPart(name, slideCopy(copies, state))
        yield xmlPart(relationsPart(name), relationsXml(kept))
      }
      if (at === 0) sample = read.document
    }
  }
  let sample: Document | null = null

  async function* trialPages(): AsyncGenerator<WrittenPart> {
    const [first] = presentation.slides
    const layout = first === undefined ? undefined : relationOfType(await relationsOf(file, first.part), 'slideLayout')
    if (sample === null || layout === undefined) return
    trials = await missingFonts(fonts)
    for (const [n, font] of trials.entries()) {
      const name = posix.join(folder, `trial${String(n)}.xml`)
      pages.push(name)
      yield xmlPart(name, trialPage(font, sample))
      yield xmlPart(relationsPart(name), relationsXml([layout]))
    }
  }

  async function* parts(): AsyncGenerator<WrittenPart> {
    for (const name of file.names) {
      if (name === presentation.part || name === relationsPart(presentation.part) || name === '[Content_Types].xml') continue
      if (slideParts.has(name) || isLeftOut(name)) continue
      yield { name, bytes: 'as it is' }
    }
    yield* slidePages()
    yield* trialPages()
    const ids = pages.map((_, n) => `page${String(n)}`)
    const rest = [...presentation.relations.values()].filter(
      ({ type, external, target }) => !external && !MAIN_LEFT_OUT.has(type) && !isLeftOut(target),
    )
    const own = pages.map((target, n) => ({ id: ids[n] ?? '', uri: slideUri(presentation), target, external: false }))
    yield xmlPart(presentation.part, mainPart(presentation, ids))
    yield xmlPart(relationsPart(presentation.part), relationsXml([...rest, ...own]))
    yield xmlPart('[Content_Types].xml', await contentTypes(file, presentation.part, pages))
  }

  await writePackage(file, parts(), path)
  return { slides, findings, trials }
}

/** The type by which this file names its slides: there are two editions of the standard. */
const slideUri = ({ relations }: Presentation): string => relationOfType(relations, 'slide')?.uri ?? SLIDE_TYPE

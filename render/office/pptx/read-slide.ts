import type { Motion, Size } from '@core/model'
import { clickStates } from '@core/office'
import type { ClickState, OfficeFinding } from '@core/office'
import { mostly } from '../language'
import type { OfficePackage } from '../office-package'
import type { OfficeSlide, SlideRecording } from '../office-deck'
import { attribute, childOf, parseXml, rootOf } from '../xml'
import type { Document } from '../xml'
import type { Templates } from './inherited'
import { mediaFindings, mediaOn } from './media'
import type { SlideMedia } from './media'
import type { Presentation } from './presentation'
import { recordingOf, timedInk } from './recording'
import { relationOfType, relationsOf } from './relations'
import type { Relation } from './relations'
import { shapesById } from './shapes'
import { boxOf } from './show-state'
import { descriptionOf, lettersByLanguage, notesOn, titleOf, transitionOf } from './slide-facts'
import type { TemplateParts } from './templates'
import { timingOf } from './timing'

/** A slide as it was read. */
export interface ReadSlide {
  readonly slide: OfficeSlide
  readonly states: readonly ClickState[]
  readonly document: Document
  readonly relations: ReadonlyMap<string, Relation>
  readonly templates: Templates
  readonly recorded: ReadonlySet<string>
  readonly findings: readonly OfficeFinding[]
}

const motionsOf = (document: Document, state: ClickState, size: Size, templates: Templates): readonly Motion[] => {
  const shapes = shapesById(document)
  return state.motions.flatMap(({ target, path, duration }) => {
    const [shape] = shapes.get(target) ?? []
    const box = shape === undefined ? null : boxOf(shape, size, templates)
    return box === null ? [] : [{ box, path: path.slice(0, 4000), duration }]
  })
}

/** Ids of shapes that stand for what was recorded on a slide: a show does not show them. */
const recordedShapes = (media: readonly SlideMedia[], ink: readonly string[], recording: SlideRecording | null): ReadonlySet<string> =>
  new Set([...media.filter(({ narration, film }) => narration || !film).map(({ shape }) => shape), ...(recording === null ? [] : ink)])

/** Reads a slide and all that belongs to it. @param at which slide, counted from 0 */
export async function readSlide(file: OfficePackage, { slides, size }: Presentation, at: number, parts: TemplateParts): Promise<ReadSlide> {
  const number = at + 1
  const { part, section } = slides[at] ?? { part: '', section: '' }
  const document = parseXml(await file.text(part))
  const relations = await relationsOf(file, part)
  const templates = await parts.of(relations)
  const { timeline, found } = timingOf(document)
  const states = clickStates(timeline)
  const media = mediaOn(document, relations, file)
  const { strokes, shapes } = await timedInk(document, relations, file, size)
  const recording = recordingOf(document, media, strokes, size)
  const { transition, known } = transitionOf(document)
  const page = relationOfType(relations, 'notesSlide')
  const notesPage = page === undefined || page.external || !file.has(page.target) ? null : parseXml(await file.text(page.target))
  const letters = lettersByLanguage(document)
  const moves = states.some(({ motions }) => motions.length > 0)
  return {
    slide: {
      number,
      title: titleOf(document),
      notes: notesPage === null ? '' : notesOn(notesPage),
      description: descriptionOf(document),
      section,
      hidden: attribute(childOf(document, 'sld') ?? rootOf(document), 'show') === '0',
      language: mostly(letters),
      transition,
      states: states.map((state) => ({ clicks: state.clicks, soft: state.soft, motions: motionsOf(document, state, size, templates) })),
      recording,
    },
    states,
    document,
    relations,
    templates,
    recorded: recordedShapes(media, shapes, recording),
    findings: [
      ...[...found].map((kind) => ({ kind, slide: number })),
      ...(moves ? [{ kind: 'path', slide: number } as const] : []),
      ...(known ? [] : [{ kind: 'transition', slide: number } as const]),
      ...mediaFindings(number, media, relations, file),
    ],
  }
}

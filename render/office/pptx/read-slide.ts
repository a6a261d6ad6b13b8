import type { Rect } from '@core/model'
import { clickStates } from '@core/office'
import type { ClickState, EffectTarget, OfficeFinding } from '@core/office'
import type { OfficePackage } from '../office-package'
import type { OfficeSlide, SlideClip, SlideRecording } from '../office-deck'
import { movementFindings, officeStates, playOf } from '../slide-states'
import { mostly } from '../slide-words'
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
  const timing = timingOf(document)
  const states = clickStates(timing.timeline)
  const byId = shapesById(document)
  const boxIn = (target: EffectTarget): Rect | null => {
    const [shape] = byId.get(target) ?? []
    return shape === undefined ? null : boxOf(shape, size, templates)
  }
  const media = mediaOn(document, relations, file)
  const { strokes, shapes } = await timedInk(document, relations, file, size)
  const recording = recordingOf(document, media, strokes, size)
  const comes = transitionOf(document)
  const page = relationOfType(relations, 'notesSlide')
  const notesPage = page === undefined || page.external || !file.has(page.target) ? null : parseXml(await file.text(page.target))
  return {
    slide: {
      number,
      title: titleOf(document),
      notes: notesPage === null ? '' : notesOn(notesPage),
      description: descriptionOf(document),
      section,
      hidden: attribute(childOf(document, 'sld') ?? rootOf(document), 'show') === '0',
      language: mostly(lettersByLanguage(document)),
      transition: comes.transition,
      states: officeStates(states, boxIn),
      recording,
      clips: media.flatMap(({ shape, inside, film, narration, loop }): readonly SlideClip[] =>
        inside === null || narration
          ? []
          : [{ media: inside, film, box: film ? boxIn(shape) : null, ...playOf(shape, timing.timeline, states), loop }],
      ),
    },
    states,
    document,
    relations,
    templates,
    recorded: recordedShapes(media, shapes, recording),
    findings: [...movementFindings(number, timing, states, comes), ...mediaFindings(number, media, relations, file)],
  }
}

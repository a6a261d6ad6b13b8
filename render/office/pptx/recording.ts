import type { Ms, PathPoint, Size } from '@core/model'
import { isTimed, strokesOf } from '../ink-ml'
import type { RecordedStroke } from '@core/office'
import type { SlideRecording } from '../office-deck'
import type { OfficePackage } from '../office-package'
import { attribute, childOf, parseXml, relationOf, within } from '../xml'
import type { Document, Element } from '../xml'
import type { SlideMedia } from './media'
import type { Relation } from './relations'
import { numberIn, shapeIdOf } from './shapes'
import { transitionElement } from './slide-facts'

/** Most points of pointers on one slide that are taken. */
const MOST_POINTS = 20_000
/** Longest time on one slide that is believed, in ms. */
const LONGEST: Ms = 3 * 3_600_000

const timeIn = (element: Element, name: string): Ms | null => {
  const text = attribute(element, name)
  const time = text === null ? Number.NaN : Number(text)
  return Number.isFinite(time) && time >= 0 && time <= LONGEST ? Math.round(time) : null
}

/** Where the pointer was, trace by trace ([MS-PPTX], laser traces). */
function pointerOf(slide: Document, size: Size): SlideRecording['pointer'] {
  let left = MOST_POINTS
  return [...within(slide, 'tracePtLst')].flatMap((list) => {
    const points = [...within(list, 'tracePt')].slice(0, left).flatMap((point) => {
      const time = timeIn(point, 't')
      const [x, y] = [numberIn(point, 'x') / size.width, numberIn(point, 'y') / size.height]
      return time === null || x < 0 || x > 1 || y < 0 || y > 1 ? [] : [{ time, x, y }]
    })
    left -= points.length
    const at = points[0]?.time
    if (at === undefined) return []
    const path: readonly PathPoint[] = points.filter(({ time }) => time >= at).map(({ time, x, y }) => ({ dt: time - at, x, y }))
    return [{ at, path }]
  })
}

/** When clicks were made ([MS-PPTX], show events); those on the recording itself are none. */
function clicksOf(slide: Document, media: readonly SlideMedia[]): readonly Ms[] {
  const own = new Set(media.map(({ shape }) => shape))
  return [...within(slide, 'triggerEvt')]
    .filter((event) => !own.has(attribute(event, 'objId') ?? ''))
    .flatMap((event) => timeIn(event, 'time') ?? [])
    .sort((a, b) => a - b)
}

/** A part of a slide that holds ink, and where it lies. */
function inkPlace(part: Element, size: Size) {
  const frame = childOf(part, 'xfrm')
  const [offset, extent] = frame === null ? [null, null] : [childOf(frame, 'off'), childOf(frame, 'ext')]
  return {
    x: numberIn(offset, 'x') / size.width,
    y: numberIn(offset, 'y') / size.height,
    w: numberIn(extent, 'cx') / size.width,
    h: numberIn(extent, 'cy') / size.height,
  }
}

/** Ink that was drawn while the slide was recorded, and the shapes that it is. */
export async function timedInk(
  slide: Document,
  relations: ReadonlyMap<string, Relation>,
  file: OfficePackage,
  size: Size,
): Promise<{ readonly strokes: readonly RecordedStroke[]; readonly shapes: readonly string[] }> {
  const strokes: RecordedStroke[] = []
  const shapes: string[] = []
  for (const part of within(slide, 'contentPart')) {
    const relation = relations.get(relationOf(part, 'id') ?? '')
    if (relation === undefined || relation.external || !file.has(relation.target)) continue
    const ink = parseXml(await file.text(relation.target))
    if (!isTimed(ink)) continue
    strokes.push(...strokesOf(ink, inkPlace(part, size)))
    const id = shapeIdOf(part)
    if (id !== null) shapes.push(id)
  }
  return { strokes: strokes.sort((a, b) => a.at - b.at), shapes }
}

/** What was recorded on a slide; null when nothing was. */
export function recordingOf(
  slide: Document,
  media: readonly SlideMedia[],
  ink: readonly RecordedStroke[],
  size: Size,
): SlideRecording | null {
  const transition = transitionElement(slide)
  const length = transition === null ? null : timeIn(transition, 'advTm')
  const spoken = media.find(({ narration, inside }) => narration && inside !== null)
  if (spoken === undefined && (length === null || length === 0)) return null
  return {
    media: spoken?.inside ?? null,
    camera: spoken?.film ?? false,
    length: length === 0 ? null : length,
    clicks: clicksOf(slide, media),
    pointer: pointerOf(slide, size),
    ink,
  }
}

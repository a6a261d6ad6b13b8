import { PLAIN_FRAMING } from '@core/model'
import type { Framing, Programme, Size, Slide, Stroke, VisitId } from '@core/model'
import { contentOfClips, contentOfObjects } from './clip-rect'
import { coverage, fitContent, mergeContent } from './content-grid'
import type { ContentGrid } from './content-grid'
import { contentOfInk } from './ink-content'
import { composedFraming, faceRect } from './inset-place'
import { placeInset } from './place-inset'

/** What each step of a slide has where, on the slide's own shape. */
export const contentOfSteps = (slide: Slide, shape: Size): readonly ContentGrid[] =>
  slide.steps.map((step, n) => {
    const own = fitContent(step.content, step.picture.size, shape)
    const over = [contentOfClips(slide, n, shape), contentOfObjects(slide, n, shape)].filter((one) => one !== null)
    return over.length === 0 ? own : mergeContent([own, ...over])
  })

/** Of slides whose steps, and what lies over them, are the same. */
const proposed = new WeakMap<Slide['steps'], { readonly shape: Size; readonly over: readonly unknown[]; readonly framing: Framing }>()

const sameShape = (a: Size, b: Size): boolean => Math.abs(a.width / a.height - b.width / b.height) < 0.005

/** The framing that is proposed for a slide from what is on it. */
function proposedFraming(slide: Slide, shape: Size): Framing {
  if (slide.composition !== null) return composedFraming(slide.composition.layout, shape)
  const inset = slide.proposedInset
  if (inset !== undefined && sameShape(inset.shape, shape)) return { ...PLAIN_FRAMING, rect: inset.rect }
  const over = [slide.clips, slide.drawing]
  const known = proposed.get(slide.steps)
  if (known !== undefined && known.over.every((one, n) => one === over[n]) && sameShape(known.shape, shape)) return known.framing
  const framing = placeInset(contentOfSteps(slide, shape), shape)
  proposed.set(slide.steps, { shape, over, framing })
  return framing
}

/** Framing of a slide: its own, else the one that is proposed. */
export const framingOf = (slide: Slide, shape: Size): Framing => slide.framing ?? proposedFraming(slide, shape)

/** Framing of a slide in one of its visits: what was said for that visit, else the slide's. */
export const framingInVisit = (programme: Pick<Programme, 'framings'>, visit: VisitId, slide: Slide, shape: Size): Framing =>
  programme.framings[visit] ?? framingOf(slide, shape)

/** The share of a slide's content, all its steps together, that the face lies on: 0 to 1. @param ink that lies on it too */
export function coveredShare(slide: Slide, framing: Framing, shape: Size, ink: readonly Stroke[] = []): number {
  if (framing.off || framing.placing === 'beside') return 0
  const drawn = ink.length === 0 ? [] : [contentOfInk(ink)]
  return coverage(mergeContent([...contentOfSteps(slide, shape), ...drawn]), faceRect(framing))
}

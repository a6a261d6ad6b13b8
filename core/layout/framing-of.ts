import { PLAIN_FRAMING } from '@core/model'
import type { Framing, Programme, Size, Slide, Stroke, VisitId } from '@core/model'
import { contentOfClips } from './clip-rect'
import { coverage, fitContent, mergeContent } from './content-grid'
import type { ContentGrid } from './content-grid'
import { contentOfInk } from './ink-content'
import { composedFraming, faceRect } from './inset-place'
import { placeInset } from './place-inset'

/** What each step of a slide has where, on the slide's own shape. */
export const contentOfSteps = (slide: Slide, shape: Size): readonly ContentGrid[] =>
  slide.steps.map((step, n) => {
    const own = fitContent(step.content, step.picture.size, shape)
    const clips = contentOfClips(slide, n, shape)
    return clips === null ? own : mergeContent([own, clips])
  })

/** Of slides whose steps and clips are the same. */
const proposed = new WeakMap<Slide['steps'], { readonly shape: Size; readonly clips: Slide['clips']; readonly framing: Framing }>()

const sameShape = (a: Size, b: Size): boolean => Math.abs(a.width / a.height - b.width / b.height) < 0.005

/** The framing that is proposed for a slide from what is on it. */
function proposedFraming(slide: Slide, shape: Size): Framing {
  if (slide.composition !== null) return composedFraming(slide.composition.layout, shape)
  const inset = slide.proposedInset
  if (inset !== undefined && sameShape(inset.shape, shape)) return { ...PLAIN_FRAMING, rect: inset.rect }
  const known = proposed.get(slide.steps)
  if (known !== undefined && known.clips === slide.clips && sameShape(known.shape, shape)) return known.framing
  const framing = placeInset(contentOfSteps(slide, shape), shape)
  proposed.set(slide.steps, { shape, clips: slide.clips, framing })
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

import { touchesStroke } from '@core/ink'
import type { Cue, InkColour, InkWidth, Ms, PathPoint, Point, Size, SlideId, Stroke } from '@core/model'

/** `hand` goes on with a click; `spot` follows the hand and leaves nothing. */
export type Tool = 'hand' | 'pen' | 'marker' | 'label' | 'eraser' | 'spot'

/** Notes an event of the take at a time of the page's clock. */
export type NoteCue = (make: (at: Ms) => Cue, stamp: number) => void

/** Reach of the eraser, as a fraction of the slide's height. */
const ERASER = 0.018

/** Ink lying on the slides, and the tools that lay it. Whatever is done to it is noted as a cue. */
export function inkLayer(cue: NoteCue, current: () => SlideId | null, shape: () => Size) {
  const tool = ref<Tool>('hand')
  const colour = ref<InkColour>('brick')
  const width = ref<InkWidth>('fine')
  const ink = shallowRef<readonly Stroke[]>([])
  const shownInk = computed(() => ink.value.filter((stroke) => stroke.slide === current()))

  /** Lays down a finished stroke. @param began when the pen came down, on the page's clock */
  function draw(stroke: Stroke, began: number): void {
    ink.value = [...ink.value, stroke]
    cue((at) => ({ kind: 'ink', at, stroke }), began)
  }

  function take(gone: readonly Stroke[], stamp: number): void {
    if (gone.length === 0) return
    ink.value = ink.value.filter((stroke) => !gone.includes(stroke))
    for (const stroke of gone) cue((at) => ({ kind: 'erase', at, stroke: stroke.id }), stamp)
  }

  /** Erases whatever strokes an eraser touches. @param at in fractions of the slide */
  const eraseAt = (at: Point, stamp: number): void => {
    take(
      shownInk.value.filter((stroke) => touchesStroke(stroke, at, ERASER, shape())),
      stamp,
    )
  }

  const undoStroke = (stamp: number): void => {
    take(shownInk.value.slice(-1), stamp)
  }

  function wipe(stamp: number): void {
    const slide = current()
    if (slide === null || shownInk.value.length === 0) return
    ink.value = ink.value.filter((stroke) => stroke.slide !== slide)
    cue((at) => ({ kind: 'wipe', at, slide }), stamp)
  }

  /** Notes where the spot was. @param began when its path begins, on the page's clock */
  function point(path: readonly PathPoint[], began: number): void {
    cue((at) => ({ kind: 'point', at, path }), began)
  }

  return { tool, colour, width, ink, shownInk, draw, eraseAt, undoStroke, wipe, point }
}

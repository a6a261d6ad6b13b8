import { touchesStroke } from '@core/ink'
import type { InkColour, InkWidth, PathPoint, Point, Size, SlideId, Stroke } from '@core/model'
import type { Screen } from '@core/session'
import type { Ref } from 'vue'
import type { NoteCue } from './lectern-screen'

/** `hand` goes on with a click; `spot` follows the hand and leaves nothing. */
export type Tool = 'hand' | 'pen' | 'marker' | 'label' | 'eraser' | 'spot'

/** Reach of the eraser, as a fraction of the slide's height. */
const ERASER = 0.018

/** The tools that draw on the slide that is up. Whatever is done is noted as a cue. */
export function inkLayer(note: NoteCue, screen: Ref<Screen>, current: () => SlideId | null, shape: () => Size) {
  const tool = ref<Tool>('hand')
  const colour = ref<InkColour>('brick')
  const width = ref<InkWidth>('fine')
  const shownInk = computed(() => screen.value.ink.filter((stroke) => stroke.slide === current()))

  /** Lays down a finished stroke. @param began when the pen came down, on the page's clock */
  function draw(stroke: Stroke, began: number): void {
    note((at) => ({ kind: 'ink', at, stroke }), began)
  }

  function erase(gone: readonly Stroke[], stamp: number): void {
    for (const stroke of gone) note((at) => ({ kind: 'erase', at, stroke: stroke.id }), stamp)
  }

  /** Erases whatever strokes an eraser touches. @param at in fractions of the slide */
  const eraseAt = (at: Point, stamp: number): void => {
    erase(
      shownInk.value.filter((stroke) => touchesStroke(stroke, at, ERASER, shape())),
      stamp,
    )
  }

  const undoStroke = (stamp: number): void => {
    erase(shownInk.value.slice(-1), stamp)
  }

  function wipe(stamp: number): void {
    const slide = current()
    if (slide === null || shownInk.value.length === 0) return
    note((at) => ({ kind: 'wipe', at, slide }), stamp)
  }

  /** Notes where the spot was. @param began when its path begins, on the page's clock */
  function point(path: readonly PathPoint[], began: number): void {
    note((at) => ({ kind: 'point', at, path }), began)
  }

  return { tool, colour, width, shownInk, draw, eraseAt, undoStroke, wipe, point }
}

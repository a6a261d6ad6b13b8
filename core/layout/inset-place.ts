import { OUTLINE_RATIO, PLAIN_FRAMING } from '@core/model'
import type { Framing, Layout, Outline, Point, Rect, Size } from '@core/model'

/** Side of a usual inset, as a fraction of the slide's shorter side: the height of an upright card. */
export const USUAL_SIZE = 0.3556
export const LEAST_SIZE = 0.12
export const MOST_SIZE = 0.95
/** Distance of a usual inset from the slide's edges, as a fraction of its shorter side. */
const MARGIN = 0.0356

/** How much higher or lower than an upright card of the same size each outline is: all show about as much face. */
const HEIGHT: Readonly<Record<Outline, number>> = { card: 1, arch: 1, round: 0.88, wide: 0.7 }

/**
 * Width and height of an inset in fractions of the slide.
 * @param size as a fraction of the slide's shorter side
 */
export function insetExtent(outline: Outline, size: number, shape: Size): { readonly w: number; readonly h: number } {
  const short = Math.min(shape.width, shape.height)
  let height = size * HEIGHT[outline] * short
  let width = height * OUTLINE_RATIO[outline]
  const fit = Math.min(1, shape.width / width, shape.height / height)
  width *= fit
  height *= fit
  return { w: width / shape.width, h: height / shape.height }
}

/** The size that an inset's box has, the inverse of `insetExtent`. */
export const sizeOfInset = (framing: Pick<Framing, 'rect' | 'outline'>, shape: Size): number =>
  (framing.rect.h * shape.height) / (HEIGHT[framing.outline] * Math.min(shape.width, shape.height))

/** Margins in fractions of the slide's width and height. */
export const insetMargin = (shape: Size): Point => {
  const short = Math.min(shape.width, shape.height)
  return { x: (MARGIN * short) / shape.width, y: (MARGIN * short) / shape.height }
}

/** The same middle, another outline or size, kept on the slide. */
export function resized(framing: Framing, outline: Outline, size: number, shape: Size): Framing {
  const { w, h } = insetExtent(outline, Math.max(LEAST_SIZE, Math.min(MOST_SIZE, size)), shape)
  const x = framing.rect.x + framing.rect.w / 2 - w / 2
  const y = framing.rect.y + framing.rect.h / 2 - h / 2
  return { ...framing, outline, rect: onSlide({ x, y, w, h }) }
}

/** A box moved so that all of it is on the slide. */
export const onSlide = (rect: Rect): Rect => ({
  ...rect,
  x: Math.max(0, Math.min(1 - rect.w, rect.x)),
  y: Math.max(0, Math.min(1 - rect.h, rect.y)),
})

/** A box moved so far, as far as it stays on the slide. @param by in fractions of the slide */
export const shiftedOnSlide = (rect: Rect, by: Point): Rect => onSlide({ ...rect, x: rect.x + by.x, y: rect.y + by.y })

/** The inset in the lower right corner, where it lies unless a slide has reasons of its own. */
export function usualInset(shape: Size, outline: Outline = 'card', size: number = USUAL_SIZE): Rect {
  const { w, h } = insetExtent(outline, size, shape)
  const margin = insetMargin(shape)
  return { x: 1 - w - margin.x, y: 1 - h - margin.y, w, h }
}

/** Face and slide side by side: the part of the frame that each gets when the face is on the right. */
const BESIDE = { stage: { x: 0.02, y: 0.15, w: 0.7, h: 0.7 }, face: { x: 0.74, y: 0.08, w: 0.24, h: 0.84 } } as const
/** All of the frame. */
export const WHOLE: Rect = { x: 0, y: 0, w: 1, h: 1 }
const swapped = (rect: Rect): Rect => ({ ...rect, x: 1 - rect.x - rect.w })
const faceLeft = (framing: Framing): boolean => framing.rect.x + framing.rect.w / 2 < 0.5

/** Where the face is in the frame, in fractions of it. */
export function faceRect(framing: Framing): Rect {
  switch (framing.placing) {
    case 'over':
      return framing.rect
    case 'full':
      return WHOLE
    case 'beside':
      return faceLeft(framing) ? swapped(BESIDE.face) : BESIDE.face
  }
}

/** Where the slide is in the frame while the face is shown, in fractions of it. */
export function stageRect(framing: Framing): Rect {
  if (framing.placing !== 'beside') return WHOLE
  return faceLeft(framing) ? swapped(BESIDE.stage) : BESIDE.stage
}

/** The framing of a slide made here that has none of its own: usual, but large beside few words. */
export function composedFraming(layout: Layout, shape: Size): Framing {
  if (layout !== 'voice') return { ...PLAIN_FRAMING, rect: usualInset(shape) }
  const { w, h } = insetExtent('card', shape.width >= shape.height ? 0.84 : 0.9, shape)
  const margin = insetMargin(shape)
  return {
    ...PLAIN_FRAMING,
    rect:
      shape.width >= shape.height ? { x: 1 - w - 2 * margin.x, y: (1 - h) / 2, w, h } : { x: (1 - w) / 2, y: 1 - h - 2 * margin.y, w, h },
  }
}

/** What a slide made here keeps free for the face. */
export function clearOf(layout: Layout, framing: Framing | null, shape: Size): Rect | null {
  const own = framing ?? composedFraming(layout, shape)
  return own.off || own.placing !== 'over' ? null : own.rect
}

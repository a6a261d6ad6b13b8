import { WHOLE, coverageOf } from '@core/layout'
import type { SummedGrid } from '@core/layout'
import { rectsOverlap } from '@core/model'
import type { CaptionStyle, Rect } from '@core/model'
import type { Extent } from './caption-box'

/** Where captions stand while some slide is shown, in fractions of the frame. */
export interface CaptionPlace {
  /** The middle of each line. */
  readonly middle: number
  /** The lower edge of the last line. */
  readonly foot: number
  /** The part of the frame that the picture has: all of it, or what is left above a strip. */
  readonly picture: Rect
}

/** What there is in the picture that captions are not to hide. */
export interface Hidden {
  /** Content of the slide, ink included. */
  readonly content: SummedGrid
  /** The part of the frame that the slide has. */
  readonly stage: Rect
  /** Where the face is; null: there is none. */
  readonly face: Rect | null
  /** What lies over the picture. */
  readonly over?: readonly Rect[]
}

/** Distance from the frame's edges, as a fraction of its height and its width. */
const MARGIN = 0.035
/** Room that is kept between captions and the face. */
const AIR = 0.012
/** So little of a slide's content under a caption is as good as nothing. */
const NOTHING = 0.002

const boxOf = ({ middle, foot }: Pick<CaptionPlace, 'middle' | 'foot'>, { w, h }: Extent): Rect => ({
  x: middle - w / 2,
  y: foot - h,
  w,
  h,
})

/** A box of the frame as it lies on the slide that stands in it. */
const onStage = (box: Rect, stage: Rect): Rect => ({
  x: (box.x - stage.x) / stage.w,
  y: (box.y - stage.y) / stage.h,
  w: box.w / stage.w,
  h: box.h / stage.h,
})

/** Places at one height: in the middle of the slide, and where the face is at that height in the middle of what is left beside it. */
function placesAt(foot: number, extent: Extent, { stage, face }: Hidden): readonly CaptionPlace[] {
  const middles = [stage.x + stage.w / 2]
  const row = { x: 0, y: foot - extent.h, w: 1, h: extent.h }
  if (face !== null && rectsOverlap(row, face)) {
    const [left, right] = [face.x - AIR, 1 - face.x - face.w - AIR]
    const room = Math.max(left, right)
    if (room >= extent.w + MARGIN) middles.push(left >= right ? (left + MARGIN) / 2 : 1 - (right + MARGIN) / 2)
  }
  return middles.map((middle) => ({ middle, foot, picture: WHOLE }))
}

/** The picture above a strip that is as high as captions and what is kept round them. */
function aboveStrip({ h }: Extent): CaptionPlace {
  const left = 1 - h - 2 * AIR
  return { middle: 0.5, foot: 1 - AIR, picture: { x: (1 - left) / 2, y: 0, w: left, h: left } }
}

/**
 * Where captions stand over a picture: at the foot or the head where they hide nothing, at the edge that was asked for beside the face, or
 * in a strip below.
 * @param extent of the largest of them
 * @param before where they stood on the slide before: they stay at that edge where they can
 */
export function placeCaption(
  place: CaptionStyle['place'],
  extent: Extent,
  hidden: Hidden,
  before: CaptionPlace | null = null,
): CaptionPlace {
  const [foot, head] = [1 - MARGIN, MARGIN + extent.h]
  if (place === 'strip') return aboveStrip(extent)
  const edges = { free: before?.foot === head ? [head, foot] : [foot, head], foot: [foot], head: [head] }[place]
  const content = (box: Rect): number => coverageOf(hidden.content, onStage(box, hidden.stage))
  const clear = (one: CaptionPlace): boolean => {
    const box = boxOf(one, extent)
    const onFace = [...(hidden.face === null ? [] : [hidden.face]), ...(hidden.over ?? [])].some((rect) => rectsOverlap(box, rect))
    return !onFace && (place !== 'free' || content(box) <= NOTHING)
  }
  return edges.flatMap((edge) => placesAt(edge, extent, hidden)).find(clear) ?? aboveStrip(extent)
}

/** A box of the picture, as it lies in the frame. */
export const within = (picture: Rect, box: Rect): Rect => ({
  x: picture.x + box.x * picture.w,
  y: picture.y + box.y * picture.h,
  w: box.w * picture.w,
  h: box.h * picture.h,
})

import { clipsOfStep, fittedInto, pictureBox } from '@core/model'
import { boundsOfObject, objectsAt } from '@core/objects'
import type { Clip, Rect, Size, Slide } from '@core/model'
import { CONTENT_COLUMNS, CONTENT_ROWS } from './content-grid'
import type { ContentGrid } from './content-grid'

/**
 * Where the picture of a clip is, in fractions of the slide: as large as its box allows, in its middle.
 * @param slide in pixels, or any size of its shape
 * @returns null for a sound, of which nothing is seen
 */
export function clipRect(clip: Pick<Clip, 'media' | 'box' | 'crop'>, slide: Size): Rect | null {
  const { box } = clip
  const seen = pictureBox(clip)
  if (seen === null) return null
  const inside = fittedInto(seen, { width: box.w * slide.width, height: box.h * slide.height })
  return { x: box.x + inside.x * box.w, y: box.y + inside.y * box.h, w: inside.w * box.w, h: inside.h * box.h }
}

/** What some parts of a slide take up of it. */
function contentOfRects(rects: readonly Rect[]): ContentGrid | null {
  if (rects.length === 0) return null
  const covers = (cell: number): boolean => {
    const [x, y] = [(cell % CONTENT_COLUMNS) + 0.5, Math.floor(cell / CONTENT_COLUMNS) + 0.5]
    const [across, down] = [x / CONTENT_COLUMNS, y / CONTENT_ROWS]
    return rects.some((rect) => across >= rect.x && across < rect.x + rect.w && down >= rect.y && down < rect.y + rect.h)
  }
  return Array.from({ length: CONTENT_COLUMNS * CONTENT_ROWS }, (_, cell) => (covers(cell) ? 'f' : '0')).join('')
}

/** What the clips of a step take up of its slide. */
export const contentOfClips = (slide: Pick<Slide, 'clips'>, step: number, shape: Size): ContentGrid | null =>
  contentOfRects(clipsOfStep(slide, step).flatMap((clip) => clipRect(clip, shape) ?? []))

/** What is drawn on a slide takes up so much of it, once all that moves in a step has arrived. */
export const contentOfObjects = (slide: Pick<Slide, 'drawing' | 'composition'>, step: number, shape: Size): ContentGrid | null =>
  contentOfRects(objectsAt(slide, step, Infinity, shape).map((scene) => boundsOfObject(scene, shape)))

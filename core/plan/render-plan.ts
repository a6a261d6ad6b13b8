import type { Lines, Ms, Quality, Recipe, Size } from '@core/model'
import { FRAME_RATE } from '@core/model'
import { visitsOf } from '@core/programme'
import { slideOf } from '@core/scene'
import type { FilmIndex } from '@core/scene'
import { frameAt } from './frame-grid'
import { segmentsOf } from './segment'
import type { Segment } from './segment'
import { voiceParts } from './voice'
import type { VoicePart } from './voice'

export interface Chapter {
  readonly title: string
  readonly start: Ms
  readonly end: Ms
}

/** Everything that has to be made for one file. */
export interface RenderPlan {
  readonly size: Size
  readonly rate: number
  readonly quality: Quality
  readonly frames: number
  readonly length: Ms
  readonly segments: readonly Segment[]
  readonly voice: readonly VoicePart[]
  readonly chapters: readonly Chapter[]
}

/** Pixels of a video of so many lines that keeps the deck's shape. Even numbers, as the format wants. */
export const videoSize = (shape: Size, lines: Lines): Size =>
  ({ width: Math.round((lines * shape.width) / shape.height / 2) * 2, height: lines })

/**
 * Says what has to be made for a film by a recipe.
 * @param index a film that has pieces
 */
export function renderPlan(index: FilmIndex, recipe: Pick<Recipe, 'lines' | 'quality'>): RenderPlan {
  const { film } = index
  return {
    size: videoSize(film.shape, recipe.lines),
    rate: FRAME_RATE,
    quality: recipe.quality,
    frames: frameAt(index.length, FRAME_RATE),
    length: index.length,
    segments: segmentsOf(index, FRAME_RATE),
    voice: voiceParts(film.programme),
    chapters: visitsOf(film.programme).map((visit) => ({
      title: slideOf(film, visit.slide).title,
      start: visit.start,
      end: visit.start + visit.length,
    })),
  }
}

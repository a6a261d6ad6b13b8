import { evenPixels, isVideo } from '@core/model'
import type { Lines, Ms, OwnSize, Recipe, Size } from '@core/model'
import { gainsOf, visitsOf } from '@core/programme'
import { cardOver, slideOf } from '@core/scene'
import type { FilmIndex } from '@core/scene'
import { partsBesideVoice } from './bed-sound'
import type { ClipPart } from './clip-sound'
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
export interface RenderPlan extends Pick<Recipe, 'format' | 'quality' | 'bits' | 'loudness'> {
  /** Of what is drawn. */
  readonly size: Size
  /** Of the file's picture: larger, with bars, or smaller, with the edges gone, where that has another shape. */
  readonly frame: Size
  readonly fps: number
  readonly frames: number
  readonly length: Ms
  /** None when the sound alone is wanted. */
  readonly segments: readonly Segment[]
  readonly voice: readonly VoicePart[]
  /** What is heard of clips and music. */
  readonly clips: readonly ClipPart[]
  readonly chapters: readonly Chapter[]
}

/** Pixels of a video of so many lines that keeps the deck's shape. Even numbers, as the format wants. */
export const videoSize = (shape: Size, lines: Lines): Size => ({
  width: Math.round((lines * shape.width) / shape.height / 2) * 2,
  height: lines,
})

/** What is drawn of a deck for a picture of some size. */
function drawnFor(shape: Size, { width, height, fit }: OwnSize): Size {
  const [across, down] = [width / shape.width, height / shape.height]
  const scale = fit === 'bars' ? Math.min(across, down) : Math.max(across, down)
  const drawn = { width: evenPixels(shape.width * scale), height: evenPixels(shape.height * scale) }
  return fit === 'bars'
    ? { width: Math.min(width, drawn.width), height: Math.min(height, drawn.height) }
    : { width: Math.max(width, drawn.width), height: Math.max(height, drawn.height) }
}

/**
 * Says what has to be made for a film by a recipe.
 * @param index a film that has pieces
 */
export function renderPlan(
  index: FilmIndex,
  recipe: Pick<Recipe, 'format' | 'lines' | 'size' | 'rate' | 'quality' | 'bits' | 'loudness'>,
): RenderPlan {
  const { film } = index
  const whole = videoSize(film.shape, recipe.lines)
  return {
    size: recipe.size === null ? whole : drawnFor(film.shape, recipe.size),
    frame: recipe.size === null ? whole : { width: recipe.size.width, height: recipe.size.height },
    fps: recipe.rate,
    format: recipe.format,
    quality: recipe.quality,
    bits: recipe.bits,
    loudness: recipe.loudness,
    frames: frameAt(index.length, recipe.rate),
    length: index.length,
    segments: isVideo(recipe.format) ? segmentsOf(index, recipe.rate) : [],
    voice: voiceParts(film.programme, gainsOf(film.programme, film.stretches)),
    clips: partsBesideVoice(index),
    chapters: visitsOf(film.programme).map((visit) => ({
      title: cardOver(index.overlays, visit) ?? slideOf(film, visit.slide).title,
      start: visit.start,
      end: visit.start + visit.length,
    })),
  }
}

import { estimate, renderPlan } from '@core/plan'
import type { RenderPlan } from '@core/plan'
import { LINES } from '@core/model'
import type { Lines, Recipe, VideoFormat } from '@core/model'
import type { FilmIndex } from '@core/scene'
import { CRF_BOUNDS, codingOf } from '@render/video'
import { makeSamples } from './make-samples'
import type { PictureWatch } from './encode-options'

/** What the samples say may be off by so much: nothing is refused for less, and nothing is promised without it. */
const SURE = 0.85

/** What a file takes when it is as coarse as can be looked at. */
export interface LeastSize {
  readonly bytes: number
  /** The most lines at which it is small enough, and what it takes then; null when there are none. */
  readonly fits: { readonly lines: Lines; readonly bytes: number } | null
}

/** Makes some of a film's pictures as coarse as can be looked at. @returns bytes that all of it would take, about */
async function coarsest(index: FilmIndex, plan: RenderPlan, format: VideoFormat, label: string, watch: PictureWatch): Promise<number> {
  const coding = { ...codingOf(format, plan.quality, { kind: 'free' }), crf: CRF_BOUNDS[format].coarsest }
  const probe = await makeSamples(index, plan, coding, watch, `${label}.least`)
  return estimate({ ...plan, bits: { kind: 'free' } }, { slowness: null }, probe).bytes
}

/**
 * Finds out in seconds whether a file can have a size at all, before minutes go into trying.
 * @param most bytes
 * @returns null when it can, or may
 */
export async function tooBig(
  index: FilmIndex,
  recipe: Recipe,
  format: VideoFormat,
  most: number,
  label: string,
  watch: PictureWatch,
): Promise<LeastSize | null> {
  const least = await coarsest(index, renderPlan(index, recipe), format, label, watch)
  if (least * SURE <= most) return null
  for (const lines of LINES.filter((one) => one < recipe.lines).toReversed()) {
    const bytes = await coarsest(index, renderPlan(index, { ...recipe, lines }), format, label, watch)
    if (bytes <= most * SURE) return { bytes: least, fits: { lines, bytes } }
  }
  return { bytes: least, fits: null }
}

import { fittedInto } from '@core/model'
import type { PageLink, Size } from '@core/model'
import type { SlideView } from '@core/scene'

const NONE: readonly PageLink[] = []

/**
 * Links of what is shown of a slide, where they are seen.
 * @param shape of the whole picture
 * @returns boxes in fractions of the whole picture
 */
export function linksOn({ shown, stage }: Pick<SlideView, 'shown' | 'stage'>, shape: Size): readonly PageLink[] {
  if (shown === null || shown.links === undefined) return NONE
  const fit = fittedInto(shown.picture.size, { width: stage.w * shape.width, height: stage.h * shape.height })
  return shown.links.map(({ box, address }) => ({
    address,
    box: {
      x: stage.x + stage.w * (fit.x + fit.w * box.x),
      y: stage.y + stage.h * (fit.y + fit.h * box.y),
      w: stage.w * fit.w * box.w,
      h: stage.h * fit.h * box.h,
    },
  }))
}

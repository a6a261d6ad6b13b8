import { clipRect } from '@core/layout'
import type { Size } from '@core/model'
import type { ClipScene } from '@core/scene'
import type { PaintContext, PictureShelf } from './context'

/** Draws what is seen of a clip. */
export function paintClip<Image>(ctx: PaintContext<Image>, scene: ClipScene, slide: Size, shelf: PictureShelf<Image>): void {
  const rect = clipRect(scene.clip, slide)
  const { picture } = scene.clip.media
  if (rect === null || picture === null) return
  const drawable = shelf.ofClip?.(scene) ?? shelf.ofAsset(picture.poster)
  if (drawable === undefined) return
  const [x, y, w, h] = [rect.x * slide.width, rect.y * slide.height, rect.w * slide.width, rect.h * slide.height]
  ctx.drawImage(drawable.image, 0, 0, drawable.width, drawable.height, x, y, w, h)
}

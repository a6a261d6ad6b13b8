import { clipRect } from '@core/layout'
import { pictureBox } from '@core/model'
import type { Clip, PixelBox, Size } from '@core/model'
import type { ClipScene } from '@core/scene'
import type { Drawable, PaintContext, PictureShelf } from './context'

/** Draws what is seen of a clip. */
export function paintClip<Image>(ctx: PaintContext<Image>, scene: ClipScene, slide: Size, shelf: PictureShelf<Image>): void {
  const rect = clipRect(scene.clip, slide)
  const { picture } = scene.clip.media
  if (rect === null || picture === null) return
  const drawable = shelf.ofClip?.(scene) ?? shelf.ofAsset(picture.poster)
  if (drawable === undefined) return
  const [x, y, w, h] = [rect.x * slide.width, rect.y * slide.height, rect.w * slide.width, rect.h * slide.height]
  const from = sourceBox(drawable, scene.clip)
  ctx.drawImage(drawable.image, from.x, from.y, from.width, from.height, x, y, w, h)
}

/** What is drawn of a picture of a clip, in its own pixels: it may be smaller than the clip's are. */
function sourceBox<Image>({ width, height, cropped }: Drawable<Image>, clip: Clip): PixelBox {
  const [all, box] = [clip.media.picture?.size, pictureBox(clip)]
  if (cropped === true || all === undefined || box === null) return { x: 0, y: 0, width, height }
  const [across, down] = [width / all.width, height / all.height]
  return { x: box.x * across, y: box.y * down, width: box.width * across, height: box.height * down }
}

import type { Rect } from '@core/model'

/** Where something lies on a picture of a slide, as styles of an element over that picture. @param rect in fractions of it */
export const rectStyle = ({ x, y, w, h }: Rect): Readonly<Record<'left' | 'top' | 'width' | 'height', string>> => ({
  left: `${String(x * 100)}%`,
  top: `${String(y * 100)}%`,
  width: `${String(w * 100)}%`,
  height: `${String(h * 100)}%`,
})

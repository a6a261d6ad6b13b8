import { WHOLE } from '@core/layout'
import { objectsAt } from '@core/objects'
import type { Ms, Point, Rect, Size, Slide } from '@core/model'
import type { Screen } from '@core/session'
import type { ClipScene } from './clips-on'
import { stepOf } from './scene-at'
import type { Scene } from './scene-at'

/**
 * What a screen looks like while it is presented: all ink of its slide whole, no face (which is shown live), nothing in between.
 * @param slide that the screen shows
 * @param clips on it, as they are now
 * @param moment how long its step has been there in ms, Infinity: nothing of it moves any more; and the slide's shape
 * @param stage part of the frame that the slide has
 * @param spot the pointer's, in fractions of the slide
 */
export function sceneOfScreen(
  { step, blank, ink }: Pick<Screen, 'step' | 'blank' | 'ink'>,
  slide: Slide,
  clips: readonly ClipScene[],
  moment: { readonly elapsed: Ms; readonly shape: Size },
  stage: Rect = WHOLE,
  spot: Point | null = null,
): Scene {
  const lying = ink.filter((stroke) => stroke.slide === slide.id).map((stroke) => ({ stroke, elapsed: null }))
  return {
    slide: slide.id,
    step,
    shown: blank ? null : stepOf(slide, step),
    clips: blank ? [] : clips,
    objects: blank ? [] : objectsAt(slide, step, moment.elapsed, moment.shape),
    ink: blank ? [] : lying,
    spot: blank ? null : spot,
    stage,
    revealProgress: 1,
    inset: null,
    voice: null,
    transition: null,
    overlays: [],
    caption: null,
  }
}

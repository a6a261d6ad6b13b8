import { WHOLE } from '@core/layout'
import type { Ms } from '@core/model'
import { overlaysAt } from './film-overlays'
import type { FilmIndex, Scene } from './scene-at'

/** Whether nothing of what is below is seen. */
const isCovered = ({ overlays }: Pick<Scene, 'overlays'>): boolean =>
  overlays.some(({ overlay, there }) => overlay.kind === 'card' && there === 1)

/** Whether a card lies over all of a film at a time of it. */
export const isCoveredAt = ({ overlays }: FilmIndex, t: Ms): boolean => isCovered({ overlays: overlaysAt(overlays, t) })

/** As much of a scene as is seen: where a card lies over all of it, nothing moves below. */
export function asSeen(scene: Scene): Scene {
  if (!isCovered(scene)) return scene
  const { revealFrom: _, ...rest } = scene
  return { ...rest, clips: [], objects: [], ink: [], spot: null, inset: null, stage: WHOLE, revealProgress: 1, transition: null }
}

import type { Intent, Ms, PlayedClip, Stroke } from '@core/model'
import { sceneAt } from '@core/scene'
import type { FilmIndex, Scene } from '@core/scene'
import type { Screen } from '@core/session'
import { startedIn } from './presented-clips'
import type { presentedSlide } from './presented-slide'

/** What is on screen as a take begins: as a part began that is said again, else the slide as it comes. */
export function takeOpening(put: (fields: Partial<Screen>) => void, slide: ReturnType<typeof presentedSlide>) {
  /** Ink that lies on the slides then. */
  let ink: readonly Stroke[] = []
  /** Clips as they are then; null: those of the slide begin anew. */
  let started: readonly PlayedClip[] | null = null

  return {
    /**
     * A part that is said again begins with what is on screen there.
     * @param at when it begins in the film
     * @returns that; null: nothing is taken over
     */
    takeFrom: (intent: Intent, film: FilmIndex | null, at: Ms): Scene | null => {
      const there = intent.kind === 'range' && film !== null ? sceneAt(film, at) : null
      ink = there?.ink.map(({ stroke }) => stroke) ?? []
      started = there === null ? null : startedIn(there.clips)
      return there
    },
    show: (): void => {
      put({ ink, blank: false })
      if (started === null) slide.begin()
      else slide.standAt(started, undefined)
    },
  }
}

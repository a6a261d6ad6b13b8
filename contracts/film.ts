import type { Film, Programme } from '@core/model'
import { stretchesOf } from '@core/scene'
import type { FilmView } from './views'

/** A film as it came over the wire, ready to be asked what is on screen. */
export const toFilm = (view: Omit<FilmView, 'peaks'>): Film => ({
  programme: view.programme,
  shape: view.shape,
  slides: new Map(view.slides.map((slide) => [slide.id, slide])),
  stretches: new Map(view.stretches.map((stretch) => [stretch.id, stretch])),
})

/**
 * A film with another programme of the same talk.
 * @returns null when that names slides or recordings that the film does not hold: it has to be asked for again
 */
export function withProgramme(film: FilmView, programme: Programme): FilmView | null {
  const versions = new Map(film.slides.map(({ id, version }) => [String(id), version]))
  if (Object.entries(programme.slides).some(([id, version]) => versions.get(id) !== version)) return null
  const held = new Set(film.stretches.map(({ id }) => id))
  if (programme.pieces.flatMap(stretchesOf).some((id) => !held.has(id))) return null
  return { ...film, programme }
}

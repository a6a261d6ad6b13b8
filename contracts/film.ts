import type { Film } from '@core/model'
import type { FilmView } from './views'

/** A film as it came over the wire, ready to be asked what is on screen. */
export const toFilm = (view: Omit<FilmView, 'peaks'>): Film => ({
  programme: view.programme,
  shape: view.shape,
  slides: new Map(view.slides.map((slide) => [slide.id, slide])),
  stretches: new Map(view.stretches.map((stretch) => [stretch.id, stretch])),
})

import { isInkCue } from '@core/session'
import type { Film, Piece, Recipe, Stretch } from '@core/model'
import { partOf } from './part-of'

const inkless = (stretch: Stretch): Stretch => ({
  ...stretch,
  opening: { ...stretch.opening, ink: [] },
  cues: stretch.cues.filter((cue) => !isInkCue(cue)),
})

/**
 * A film as a file is to show it: the part that its recipe wants, without what that leaves out.
 * @throws Refusal `conflict` when nothing of the film is in that part
 */
export function filmFor(film: Film, { without, part }: Pick<Recipe, 'without' | 'part'>): Film {
  const programme = partOf(film.programme, part)
  const pieces = programme.pieces.map((piece): Piece =>
    piece.kind === 'still' ? piece : { ...piece, voice: without.voice ? null : piece.voice, camera: without.face ? null : piece.camera },
  )
  return {
    ...film,
    programme: { ...programme, pieces, inkAdded: without.ink ? [] : programme.inkAdded },
    stretches: without.ink ? new Map([...film.stretches].map(([id, stretch]) => [id, inkless(stretch)])) : film.stretches,
  }
}

import { intoSpan } from '@core/programme'
import type { FilmIndex } from '@core/scene'
import type { Ms, SlideId, StretchId, VisitId } from '@core/model'
import type { CorrectedWord } from './correct'

/** A word as it is heard in the film. */
export interface FilmWord extends CorrectedWord {
  readonly visit: VisitId
  readonly slide: SlideId
  /** Where it was recorded, in the stretch's time. */
  readonly recorded: { readonly stretch: StretchId; readonly from: Ms; readonly until: Ms }
  /** What was written before it and not said; empty: nothing. */
  readonly unsaid: string
}

/** What was said in a stretch, as it was corrected. */
export type CorrectedSaid = {
  readonly words: readonly CorrectedWord[]
  readonly unsaid: readonly { readonly before: number; readonly text: string }[]
}

/** So much of a word must be left that it is still one, of 1. */
const LEFT = 0.5

/**
 * The words of a film, in the film's time: those that its pieces let be heard. What was cut, muted or spoken over is not among them; tempo
 * moves them.
 */
export function filmWords({ film, starts }: FilmIndex, said: ReadonlyMap<StretchId, CorrectedSaid>): readonly FilmWord[] {
  return film.programme.pieces.flatMap((piece, n): readonly FilmWord[] => {
    if (piece.kind === 'still' || piece.out !== undefined || piece.voice === null) return []
    const { voice, visit, slide } = piece
    const found = said.get(voice.stretch)
    if (found === undefined) return []
    const start = starts[n] ?? 0
    const inFilm = (at: Ms): Ms => Math.round(start + intoSpan(voice, Math.min(voice.to, Math.max(voice.from, at))))
    return found.words.flatMap((word, place): readonly FilmWord[] => {
      const heard = Math.min(word.until, voice.to) - Math.max(word.from, voice.from)
      if (heard < Math.max(1, (word.until - word.from) * LEFT)) return []
      const unsaid = found.unsaid.flatMap(({ before, text }) => (before === place ? [text] : [])).join(' ')
      const recorded = { stretch: voice.stretch, from: word.from, until: word.until }
      return [{ ...word, from: inFilm(word.from), until: inFilm(word.until), visit, slide, recorded, unsaid }]
    })
  })
}

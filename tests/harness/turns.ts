import { pieceStarts } from '@core/programme'
import type { Cue, Ms } from '@core/model'
import type { FilmView } from '@contracts'

/** Every cue of a kind that the programme still holds, with its time in it. */
export function timed<Kind extends Cue['kind']>(
  film: FilmView,
  kind: Kind,
): readonly { readonly at: Ms; readonly cue: Extract<Cue, { kind: Kind }> }[] {
  const starts = pieceStarts(film.programme)
  return film.programme.pieces.flatMap((piece, n) => {
    if (piece.kind === 'still') return []
    const cues = film.stretches.find((stretch) => stretch.id === piece.show.stretch)?.cues ?? []
    return cues.flatMap((cue) =>
      cue.kind === kind && cue.at >= piece.show.from && cue.at < piece.show.to
        ? [{ at: (starts[n] ?? 0) + cue.at - piece.show.from, cue: cue as Extract<Cue, { kind: Kind }> }]
        : [],
    )
  })
}

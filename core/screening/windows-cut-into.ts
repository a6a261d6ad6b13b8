import type { Clip, ClipId, Film, Ms, Stretch } from '@core/model'
import { showingsOf } from '@core/programme'
import { cuesInOrder } from '@core/session'

/** Less than this of a window that is not in the film is the time that closing its recording takes, in ms. */
const SLACK: Ms = 200

/** From when to when a window was shown in a stretch, in ms of it; null when it was not. */
function shownIn(stretch: Stretch, { id }: Clip): { readonly from: Ms; readonly to: Ms } | null {
  const from = cuesInOrder(stretch.cues).find((cue) => cue.kind === 'clip' && cue.clip === id)?.at
  if (from === undefined) return null
  return { from, to: showingsOf(stretch).find((showing) => showing.from > from)?.from ?? stretch.kept }
}

/** Parts of a stretch that are seen in a film, in order. */
const seenOf = ({ programme }: Film, stretch: Stretch): readonly { readonly from: Ms; readonly to: Ms }[] =>
  programme.pieces
    .flatMap((piece) => (piece.kind === 'recorded' && piece.out === undefined && piece.show.stretch === stretch.id ? [piece.show] : []))
    .map(({ from, to }) => ({ from, to }))
    .sort((a, b) => a.from - b.from)

function isWhole(parts: readonly { readonly from: Ms; readonly to: Ms }[], from: Ms, to: Ms): boolean {
  let reached = from
  for (const part of parts) if (part.from <= reached + 1) reached = Math.max(reached, part.to)
  return reached >= to - SLACK
}

/**
 * Windows that were recorded and of which a part was cut, or said again: their files hold more than the film shows, so that they are not
 * sent to those who watch.
 */
export function windowsCutInto(film: Film): ReadonlySet<ClipId> {
  const cut = new Set<ClipId>()
  const windows = [...film.slides.values()].flatMap(({ clips }) => clips?.filter(({ captured }) => captured === true) ?? [])
  for (const clip of windows) {
    const shown = [...film.stretches.values()].flatMap((stretch) => {
      const span = shownIn(stretch, clip)
      return span === null ? [] : [{ stretch, ...span }]
    })
    if (shown.some(({ stretch, from, to }) => !isWhole(seenOf(film, stretch), from, to))) cut.add(clip.id)
  }
  return cut
}

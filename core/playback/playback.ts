import type { Ms, Piece, Span, StretchId } from '@core/model'
import { gainsOf, goesOnFrom, sourceAt } from '@core/programme'
import { pieceAt } from '@core/scene'
import type { FilmIndex } from '@core/scene'
import { fromDb } from '@core/voice'

/** Where a film is while it is played. */
export interface Playhead {
  /** Of the piece in the programme. */
  readonly number: number
  /** How far into the piece, in its own time. */
  readonly into: Ms
  /** What is heard there; null: nothing is. */
  readonly voice: Span | null
  /** Where in its recording that is. */
  readonly voiceAt: Ms
}

const voiceOf = (piece: Piece): Span | null => (piece.kind === 'still' ? null : piece.voice)

/** Where a film is at a time of it; null for a film without pieces. */
export function playheadAt(film: FilmIndex, at: Ms): Playhead | null {
  const found = pieceAt(film, at)
  if (found === null) return null
  const voice = voiceOf(found.piece)
  return { number: found.number, into: found.into, voice, voiceAt: voice === null ? 0 : sourceAt(voice, found.into) }
}

/** What comes of a film that has been played for so far. */
export type Turn =
  | { readonly kind: 'on'; readonly at: Ms }
  /** Something else is heard from there on, or the same from another place. */
  | { readonly kind: 'enter'; readonly at: Ms }
  | { readonly kind: 'over'; readonly at: Ms }

/** A piece counts as over so long before its end, since nothing is heard of it any more when it is noticed, in ms. */
const NEARLY: Ms = 1

/**
 * What comes next while a film is played.
 * @param into how far into the piece it is
 * @param ended whether there is nothing left of the recording that is heard
 * @param loop a part that is played over and over; null: none
 */
export function turnOf(
  film: FilmIndex,
  { number, into }: Pick<Playhead, 'number' | 'into'>,
  ended: boolean,
  loop: { readonly from: Ms; readonly to: Ms } | null,
): Turn {
  const start = film.starts[number] ?? 0
  const end = film.starts[number + 1] ?? film.length
  if (loop !== null && start + into >= loop.to) return { kind: 'enter', at: loop.from }
  const at = Math.max(start, Math.min(end, start + into))
  if (at < end - NEARLY && !ended) return { kind: 'on', at }
  return end >= film.length - 1e-6 ? { kind: 'over', at: film.length } : { kind: 'enter', at: end }
}

/** Whether what is heard in a piece goes on from what is heard in the one before it. */
function goesOn(before: Piece | undefined, voice: Span): boolean {
  const last = before === undefined ? null : voiceOf(before)
  return last !== null && goesOnFrom(last, voice)
}

/** What is heard after the next join behind a piece, be it another place of the same recording; null when there is none. */
export function voiceAfter(film: FilmIndex, number: number): Span | null {
  const { pieces } = film.film.programme
  for (let n = number + 1; n < pieces.length; n += 1) {
    const piece = pieces[n]
    if (piece === undefined || piece.out !== undefined) continue
    const voice = voiceOf(piece)
    if (voice !== null && !goesOn(pieces[film.before[n] ?? -1], voice)) return voice
  }
  return null
}

/**
 * How loud each recording is played, so that all are equally loud, as in the file: a player can only play softer, so the loudest sets the
 * mark.
 * @returns factors from 0 to 1
 */
export function volumesOf(film: FilmIndex): ReadonlyMap<StretchId, number> {
  const gains = gainsOf(film.film.programme, film.film.stretches)
  const most = Math.max(0, ...gains.values())
  return new Map([...gains].map(([stretch, gain]) => [stretch, fromDb(gain - most)]))
}

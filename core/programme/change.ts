import { Refusal, asId, unreachable } from '@core/model'
import type { Ms, Piece, Programme, Ratio, SeamId, VisitId } from '@core/model'
import { cut, reopen } from './cut'
import { visitsOf } from './visits'
import type { Visit } from './visits'

/** A part of the finished talk, in programme time. */
export interface Stay {
  readonly from: Ms
  readonly to: Ms
}

/** What can be done with a programme in Review. */
export type ProgrammeEdit =
  /** Parts that go, in order and apart from each other. */
  | { readonly kind: 'cut', readonly parts: readonly Stay[] }
  /** Whole visits that go, wherever they are by now. */
  | { readonly kind: 'drop', readonly visits: readonly VisitId[] }
  | { readonly kind: 'reopen', readonly seam: SeamId }
  /** Puts a visit before another, or at the end. */
  | { readonly kind: 'move', readonly visit: VisitId, readonly before: VisitId | null }
  /** Shows a visit once more, before another or at the end. `name` tells it from the first. */
  | { readonly kind: 'repeat', readonly visit: VisitId, readonly before: VisitId | null, readonly name: string }
  /** Plays visits faster or slower; none named: all of them. */
  | { readonly kind: 'tempo', readonly visits: readonly VisitId[], readonly rate: Ratio }
  /** How long a visit is held that has no recording. */
  | { readonly kind: 'hold', readonly visit: VisitId, readonly length: Ms }
  /** Takes the voice off visits; what is shown stays. */
  | { readonly kind: 'hush', readonly visits: readonly VisitId[] }
  | { readonly kind: 'all', readonly edits: readonly ProgrammeEdit[] }

/** Slowest and fastest that a visit may be played. */
export const TEMPO_RANGE = { least: 0.5, most: 2 } as const
/** A visit without a recording is held for at least and at most this long, in ms. */
export const HOLD_RANGE = { least: 200, most: 3_600_000 } as const

/** @throws Refusal `not-found` */
function visitIn(programme: Programme, id: VisitId): Visit {
  const visit = visitsOf(programme).find((one) => one.id === id)
  if (visit === undefined) throw new Refusal('not-found', 'This part of the talk is not there any more.')
  return visit
}

/** Puts pieces before a visit; null: at the end. */
function laidBefore(programme: Programme, pieces: readonly Piece[], rest: Programme, before: VisitId | null): readonly Piece[] {
  const at = before === null ? rest.pieces.length : visitIn(rest, before).pieces[0]
  return [...rest.pieces.slice(0, at), ...pieces, ...rest.pieces.slice(at)]
}

const withPieces = (programme: Programme, pieces: readonly Piece[]): Programme => ({ ...programme, pieces, revision: programme.revision + 1 })

/**
 * Does an edit. The programme that is given stays as it is.
 * @throws Refusal saying what cannot be done; then nothing is
 */
export function applyProgrammeEdit(programme: Programme, edit: ProgrammeEdit): Programme {
  switch (edit.kind) {
    case 'cut': {
      // From the last on, so that the times of those before stay what they are.
      const parts = [...edit.parts].sort((a, b) => b.from - a.from)
      if (parts.length === 0) throw new Refusal('malformed', 'Nothing was chosen to be cut.')
      return { ...parts.reduce((now, part) => cut(now, part.from, part.to), programme), revision: programme.revision + 1 }
    }
    case 'drop': return applyProgrammeEdit(programme, { kind: 'cut', parts: edit.visits.map((id) => {
      const { start, length } = visitIn(programme, id)
      return { from: start, to: start + length }
    }) })
    case 'reopen': return reopen(programme, edit.seam)
    case 'move': {
      const [from, to] = visitIn(programme, edit.visit).pieces
      if (edit.before === edit.visit) return withPieces(programme, programme.pieces)
      const rest = { ...programme, pieces: [...programme.pieces.slice(0, from), ...programme.pieces.slice(to)] }
      return withPieces(programme, laidBefore(programme, programme.pieces.slice(from, to), rest, edit.before))
    }
    case 'repeat': {
      const [from, to] = visitIn(programme, edit.visit).pieces
      const again = programme.pieces.slice(from, to).map((piece): Piece => ({ ...piece, id: asId(`${piece.id}^${edit.name}`), visit: asId(`${piece.visit}^${edit.name}`) }))
      return withPieces(programme, laidBefore(programme, again, programme, edit.before))
    }
    case 'tempo': {
      const ratio = edit.rate.num / edit.rate.den
      if (ratio < TEMPO_RANGE.least || ratio > TEMPO_RANGE.most) throw new Refusal('malformed', 'A talk can be played at half to twice its tempo.')
      for (const visit of edit.visits) visitIn(programme, visit)
      return withPieces(programme, programme.pieces.map((piece) => (piece.kind === 'recorded' && (edit.visits.length === 0 || edit.visits.includes(piece.visit)) ? { ...piece, rate: edit.rate } : piece)))
    }
    case 'hold': {
      const [from, to] = visitIn(programme, edit.visit).pieces
      if (edit.length < HOLD_RANGE.least || edit.length > HOLD_RANGE.most) throw new Refusal('malformed', 'A slide can be held for 0.2 seconds to an hour.')
      const [piece] = programme.pieces.slice(from, to)
      if (piece === undefined || to - from !== 1 || piece.kind !== 'still') throw new Refusal('conflict', 'This slide was recorded; it is as long as its recording.')
      return withPieces(programme, programme.pieces.map((one) => (one === piece ? { ...piece, length: edit.length } : one)))
    }
    case 'hush': {
      for (const visit of edit.visits) visitIn(programme, visit)
      return withPieces(programme, programme.pieces.map((piece) => (piece.kind === 'recorded' && edit.visits.includes(piece.visit) ? { ...piece, voice: null } : piece)))
    }
    case 'all': return { ...edit.edits.reduce(applyProgrammeEdit, programme), revision: programme.revision + 1 }
    default: return unreachable(edit)
  }
}

/** What an edit does, in a few words, for the history. */
export function nameOfEdit(edit: ProgrammeEdit): string {
  switch (edit.kind) {
    case 'cut': return edit.parts.length === 1 ? 'cut a part' : `cut ${String(edit.parts.length)} parts`
    case 'drop': return 'cut a slide'
    case 'reopen': return 'opened a cut again'
    case 'move': return 'moved a slide'
    case 'repeat': return 'repeated a slide'
    case 'tempo': return 'changed the tempo'
    case 'hold': return 'changed how long a slide is held'
    case 'hush': return 'took the voice off a slide'
    case 'all': return edit.edits.length === 1 && edit.edits[0] !== undefined ? nameOfEdit(edit.edits[0]) : 'fitted the talk'
    default: return unreachable(edit)
  }
}

import { Refusal, asId, unreachable } from '@core/model'
import type { AddedInk, Framing, Ms, Piece, Programme, Ratio, SeamId, SlideId, StretchId, StrokeId, VisitId } from '@core/model'
import { cut, reopen } from './cut'
import { retakeVisit } from './edit'
import { changeInk } from './ink-edits'
import type { InkChange } from './ink-edits'
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
  /** Keeps the last picture of a visit for longer. `of`: the moment whose ink stays on it. */
  | { readonly kind: 'linger', readonly visit: VisitId, readonly length: Ms, readonly step: number, readonly of?: { readonly stretch: StretchId, readonly at: Ms } }
  /** Shows a slide that nobody spoke over, before a visit or at the end. `name` is that of its visit. */
  | { readonly kind: 'insert', readonly slide: SlideId, readonly version: number, readonly length: Ms, readonly before: VisitId | null, readonly name: string }
  /** Where the face is in visits; null: where it is on their slide. */
  | { readonly kind: 'framing', readonly visits: readonly VisitId[], readonly framing: Framing | null }
  | { readonly kind: 'ink', readonly visit: VisitId, readonly strokes: readonly StrokeId[], readonly change: InkChange }
  | { readonly kind: 'draw', readonly ink: AddedInk }
  | { readonly kind: 'all', readonly edits: readonly ProgrammeEdit[] }

/** Slowest and fastest that a visit may be played. */
export const TEMPO_RANGE = { least: 0.5, most: 2 } as const
/** A visit without a recording is held for at least and at most this long, in ms. */
export const HOLD_RANGE = { least: 200, most: 3_600_000 } as const

/** @throws Refusal `malformed` when a slide cannot be held for so long */
function held(length: Ms): void {
  if (length < HOLD_RANGE.least || length > HOLD_RANGE.most) throw new Refusal('malformed', 'A slide can be held for 0.2 seconds to an hour.')
}

/** @throws Refusal `not-found` */
function visitIn(programme: Programme, id: VisitId): Visit {
  const visit = visitsOf(programme).find((one) => one.id === id)
  if (visit === undefined) throw new Refusal('not-found', 'This part of the talk is not there any more.')
  return visit
}

/** Visits that are all there, as a set. @throws Refusal `not-found` */
function visitsIn(programme: Programme, ids: readonly VisitId[]): ReadonlySet<VisitId> {
  const there = new Set(programme.pieces.map((piece) => piece.visit))
  if (ids.some((id) => !there.has(id))) throw new Refusal('not-found', 'This part of the talk is not there any more.')
  return new Set(ids)
}

/** Puts pieces before a visit; null: at the end. */
function laidBefore(programme: Programme, pieces: readonly Piece[], rest: Programme, before: VisitId | null): readonly Piece[] {
  const at = before === null ? rest.pieces.length : visitIn(rest, before).pieces[0]
  return [...rest.pieces.slice(0, at), ...pieces, ...rest.pieces.slice(at)]
}

/** A piece that is shown once more, under a name of its own. */
const named = (name: string) => (piece: Piece): Piece => ({ ...piece, id: asId(`${piece.id}^${name}`), visit: asId(`${piece.visit}^${name}`) })

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
      const again = programme.pieces.slice(from, to).map(named(edit.name))
      const name: VisitId = asId(`${edit.visit}^${edit.name}`)
      const framing = programme.framings[edit.visit]
      const framings = framing === undefined ? programme.framings : { ...programme.framings, [name]: framing }
      return withPieces({ ...programme, framings }, laidBefore(programme, again, programme, edit.before))
    }
    case 'tempo': {
      const ratio = edit.rate.num / edit.rate.den
      if (ratio < TEMPO_RANGE.least || ratio > TEMPO_RANGE.most) throw new Refusal('malformed', 'A talk can be played at half to twice its tempo.')
      const wanted = visitsIn(programme, edit.visits)
      return withPieces(programme, programme.pieces.map((piece) => (piece.kind === 'recorded' && (wanted.size === 0 || wanted.has(piece.visit)) ? { ...piece, rate: edit.rate } : piece)))
    }
    case 'hold': {
      const [from, to] = visitIn(programme, edit.visit).pieces
      held(edit.length)
      const [piece] = programme.pieces.slice(from, to)
      if (piece === undefined || to - from !== 1 || piece.kind !== 'still') throw new Refusal('conflict', 'This slide was recorded; it is as long as its recording.')
      return withPieces(programme, programme.pieces.map((one) => (one === piece ? { ...piece, length: edit.length } : one)))
    }
    case 'hush': {
      const wanted = visitsIn(programme, edit.visits)
      return withPieces(programme, programme.pieces.map((piece) => (piece.kind === 'recorded' && wanted.has(piece.visit) ? { ...piece, voice: null } : piece)))
    }
    case 'linger': {
      held(edit.length)
      const visit = visitIn(programme, edit.visit)
      const last = programme.pieces[visit.pieces[1] - 1]
      if (last?.kind === 'still') return withPieces(programme, programme.pieces.map((piece) => (piece === last ? { ...last, length: last.length + edit.length } : piece)))
      const still: Piece = { kind: 'still', id: asId(`${String(last?.id)}=${String(edit.length)}`), visit: visit.id, slide: visit.slide, step: edit.step, length: edit.length, ...(edit.of === undefined ? {} : { of: edit.of }) }
      return withPieces(programme, [...programme.pieces.slice(0, visit.pieces[1]), still, ...programme.pieces.slice(visit.pieces[1])])
    }
    case 'insert': {
      held(edit.length)
      const still: Piece = { kind: 'still', id: asId(edit.name), visit: asId(edit.name), slide: edit.slide, step: 0, length: edit.length }
      return withPieces({ ...programme, slides: { ...programme.slides, [edit.slide]: edit.version } }, laidBefore(programme, [still], programme, edit.before))
    }
    case 'framing': {
      const wanted = visitsIn(programme, edit.visits)
      const others = Object.entries(programme.framings).filter(([visit]) => !wanted.has(asId(visit)))
      const { framing } = edit
      const own = framing === null ? [] : edit.visits.map((visit) => [visit, framing] as const)
      return { ...programme, framings: Object.fromEntries([...others, ...own]), revision: programme.revision + 1 }
    }
    case 'ink': {
      visitIn(programme, edit.visit)
      return changeInk(programme, edit.visit, edit.strokes, edit.change)
    }
    case 'draw': {
      visitIn(programme, edit.ink.visit)
      return { ...programme, inkAdded: [...programme.inkAdded, edit.ink], revision: programme.revision + 1 }
    }
    case 'all': return { ...edit.edits.reduce(applyProgrammeEdit, programme), revision: programme.revision + 1 }
    default: return unreachable(edit)
  }
}

/**
 * Takes another recording of a visit's slide in its place.
 * @param pieces of that recording
 * @param name tells it from another showing of the same recording
 * @throws Refusal `not-found`
 */
export function useRecording(programme: Programme, visit: VisitId, pieces: readonly Piece[], name: string): Programme {
  visitIn(programme, visit)
  if (pieces.length === 0) throw new Refusal('not-found', 'This recording is not there any more.')
  const there = new Set(programme.pieces.filter((piece) => piece.visit !== visit).map((piece) => piece.visit))
  const shown = pieces.some((piece) => there.has(piece.visit))
  return retakeVisit(programme, visit, shown ? pieces.map(named(name)) : pieces, {})
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
    case 'linger': return 'held a slide for longer'
    case 'insert': return 'put in a slide'
    case 'framing': return edit.framing?.off === true ? 'took the face off' : 'moved the face'
    case 'ink': return edit.change.kind === 'delete' ? 'deleted ink' : edit.change.kind === 'colour' ? 'recoloured ink' : 'moved ink in time'
    case 'draw': return 'drew ink'
    case 'all': return edit.edits.length === 1 && edit.edits[0] !== undefined ? nameOfEdit(edit.edits[0]) : 'fitted the talk'
    default: return unreachable(edit)
  }
}

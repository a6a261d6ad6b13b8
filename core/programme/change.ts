import { Refusal, asId, unreachable } from '@core/model'
import type {
  AddedInk,
  Bed,
  BedId,
  CaptionStyle,
  CutId,
  Framing,
  Backdrop,
  Light,
  Ms,
  Overlay,
  OverlayId,
  Piece,
  Programme,
  Ratio,
  SlideId,
  StillPiece,
  StretchId,
  StrokeId,
  VisitId,
  VoiceTreatment,
} from '@core/model'
import { cutParts, cutVisits, reopen } from './cut'
import { retakeVisit } from './edit'
import { withBackdrop, withBed, withLight, withOverlay, withTreatment, withoutHung } from './dressing'
import { asVisit, newStill, newVisit, visitShownAgain } from './fresh-id'
import { withChangedUnder } from './changed-under'
import { changeInk } from './ink-edits'
import type { InkChange } from './ink-edits'
import { atTempo } from './tempo'
import type { TimeRange } from './time-range'
import { visitsOf } from './visits'
import type { Visit } from './visits'
import { asPlayed, framedLike, withPieces } from './with-pieces'

/** What can be done with a programme in Review. */
export type ProgrammeEdit =
  /** Parts that go, in order and apart from each other. */
  | { readonly kind: 'cut'; readonly parts: readonly TimeRange[] }
  /** Whole visits that go, wherever they are by now. */
  | { readonly kind: 'drop'; readonly visits: readonly VisitId[] }
  | { readonly kind: 'reopen'; readonly seam: CutId }
  /** Puts a visit before another, or at the end. */
  | { readonly kind: 'move'; readonly visit: VisitId; readonly before: VisitId | null }
  /** Shows a visit once more, before another or at the end. `name` tells it from the first. */
  | { readonly kind: 'repeat'; readonly visit: VisitId; readonly before: VisitId | null; readonly name: string }
  /** Plays visits faster or slower; none named: all of them. */
  | { readonly kind: 'tempo'; readonly visits: readonly VisitId[]; readonly rate: Ratio }
  /** How long a visit is held that has no recording. */
  | { readonly kind: 'hold'; readonly visit: VisitId; readonly length: Ms }
  /** Takes the voice off visits; what is shown stays. */
  | { readonly kind: 'hush'; readonly visits: readonly VisitId[] }
  /** Keeps the last picture of a visit for longer. `of`: the moment whose ink stays on it. */
  | {
      readonly kind: 'linger'
      readonly visit: VisitId
      readonly length: Ms
      readonly step: number
      readonly of?: { readonly stretch: StretchId; readonly at: Ms }
    }
  /** Shows a slide that nobody spoke over, before a visit or at the end. `name` is that of its visit. */
  | {
      readonly kind: 'insert'
      readonly slide: SlideId
      readonly version: number
      readonly length: Ms
      readonly before: VisitId | null
      readonly name: string
    }
  /** Where the face is in visits; null: where it is on their slide. */
  | { readonly kind: 'framing'; readonly visits: readonly VisitId[]; readonly framing: Framing | null }
  /** Somebody has looked at visits whose slide was changed under them. */
  | { readonly kind: 'looked'; readonly visits: readonly VisitId[] }
  /** What captions on the picture look like. */
  | { readonly kind: 'captions'; readonly style: CaptionStyle }
  /** What lies over the talk: new, or in place of what has its id. */
  | { readonly kind: 'overlay'; readonly overlay: Overlay }
  | { readonly kind: 'bed'; readonly bed: Bed }
  /** Takes overlays and music off. */
  | { readonly kind: 'bare'; readonly ids: readonly (OverlayId | BedId)[] }
  /** What is done to recordings, and to visits; null: nothing for recordings, for visits as for their recordings. */
  | {
      readonly kind: 'voice'
      readonly stretches: readonly StretchId[]
      readonly visits: readonly VisitId[]
      readonly treatment: VoiceTreatment | null
    }
  /** The light of camera pictures, likewise. */
  | {
      readonly kind: 'light'
      readonly stretches: readonly StretchId[]
      readonly visits: readonly VisitId[]
      readonly light: Light | null
    }
  /** What is seen behind the presenter, likewise. */
  | {
      readonly kind: 'backdrop'
      readonly stretches: readonly StretchId[]
      readonly visits: readonly VisitId[]
      readonly backdrop: Backdrop | null
    }
  | { readonly kind: 'ink'; readonly visit: VisitId; readonly strokes: readonly StrokeId[]; readonly change: InkChange }
  | { readonly kind: 'draw'; readonly ink: AddedInk }
  | { readonly kind: 'all'; readonly edits: readonly ProgrammeEdit[] }

/** Slowest and fastest that a visit may be played. */
const TEMPO_RANGE = { least: 0.5, most: 2 } as const
/** A visit without a recording is held for at least and at most this long, in ms. */
export const HOLD_RANGE = { least: 200, most: 3_600_000 } as const

/** @throws Refusal `malformed` when a slide cannot be held for so long */
function held(length: Ms): void {
  if (length < HOLD_RANGE.least || length > HOLD_RANGE.most)
    throw new Refusal('malformed', 'A slide can be held for 0.2 seconds to an hour.')
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

/**
 * A visit that has no recording, held for so long in all. What was cut of it is back: it is the length that is said.
 * @throws Refusal `conflict` when it was recorded
 */
function heldFor(programme: Programme, visit: Visit, length: Ms): Programme {
  held(length)
  const own = programme.pieces.slice(...visit.pieces)
  const [first] = own
  if (first?.kind !== 'still' || own.some((piece) => piece.kind !== 'still'))
    throw new Refusal('conflict', 'This slide was recorded; it is as long as its recording.')
  return withPieces(programme, [
    ...programme.pieces.slice(0, visit.pieces[0]),
    { ...asPlayed(first), to: first.from + length },
    ...programme.pieces.slice(visit.pieces[1]),
  ])
}

/** Keeps the last picture of a visit up. Where a still is last already, that becomes longer, unless what comes next of it was cut. */
function lingering(programme: Programme, visit: Visit, { length, step, of }: Extract<ProgrammeEdit, { kind: 'linger' }>): Programme {
  held(length)
  const { pieces } = programme
  const at = pieces.findLastIndex((piece, n) => piece.out === undefined && n < visit.pieces[1])
  const last = pieces[at]
  const next = pieces[at + 1]
  if (last?.kind === 'still' && !(next?.kind === 'still' && next.still === last.still)) {
    return withPieces(
      programme,
      pieces.map((piece) => (piece === last ? { ...last, to: last.to + length } : piece)),
    )
  }
  const still: StillPiece = {
    kind: 'still',
    visit: visit.id,
    slide: visit.slide,
    still: newStill(programme, visit.id),
    from: 0,
    to: length,
    step,
    ...(of === undefined ? {} : { of }),
  }
  return withPieces(programme, [...pieces.slice(0, at + 1), still, ...pieces.slice(at + 1)])
}

/**
 * Does an edit. The programme that is given stays as it is, and its revision is the result's too: whoever keeps it makes the next one.
 * @throws Refusal saying what cannot be done; then nothing is
 */
export function applyProgrammeEdit(programme: Programme, edit: ProgrammeEdit): Programme {
  switch (edit.kind) {
    case 'cut':
      return cutParts(programme, edit.parts)
    case 'drop':
      return cutVisits(programme, visitsIn(programme, edit.visits))
    case 'reopen':
      return reopen(programme, edit.seam)
    case 'move': {
      const [from, to] = visitIn(programme, edit.visit).pieces
      if (edit.before === edit.visit) return programme
      const rest = { ...programme, pieces: [...programme.pieces.slice(0, from), ...programme.pieces.slice(to)] }
      return withPieces(programme, laidBefore(programme, programme.pieces.slice(from, to), rest, edit.before))
    }
    case 'repeat': {
      const [from, to] = visitIn(programme, edit.visit).pieces
      const id = visitShownAgain(programme, edit.visit, edit.name)
      const again = asVisit(programme, programme.pieces.slice(from, to), id)
      return withPieces(framedLike(programme, edit.visit, id), laidBefore(programme, again, programme, edit.before))
    }
    case 'tempo': {
      const ratio = edit.rate.num / edit.rate.den
      if (ratio < TEMPO_RANGE.least || ratio > TEMPO_RANGE.most)
        throw new Refusal('malformed', 'A talk can be played at half to twice its tempo.')
      const wanted = visitsIn(programme, edit.visits)
      return withPieces(
        programme,
        programme.pieces.map((piece) => (wanted.size === 0 || wanted.has(piece.visit) ? atTempo(piece, edit.rate) : piece)),
      )
    }
    case 'hold':
      return heldFor(programme, visitIn(programme, edit.visit), edit.length)
    case 'hush': {
      const wanted = visitsIn(programme, edit.visits)
      return withPieces(
        programme,
        programme.pieces.map((piece) => (piece.kind === 'recorded' && wanted.has(piece.visit) ? { ...piece, voice: null } : piece)),
      )
    }
    case 'linger':
      return lingering(programme, visitIn(programme, edit.visit), edit)
    case 'insert': {
      held(edit.length)
      const visit = newVisit(programme, edit.name)
      const still: StillPiece = {
        kind: 'still',
        visit,
        slide: edit.slide,
        still: newStill(programme, visit),
        from: 0,
        to: edit.length,
        step: 0,
      }
      return withPieces(
        { ...programme, slides: { ...programme.slides, [edit.slide]: edit.version } },
        laidBefore(programme, [still], programme, edit.before),
      )
    }
    case 'framing': {
      const wanted = visitsIn(programme, edit.visits)
      const others = Object.entries(programme.framings).filter(([visit]) => !wanted.has(asId(visit)))
      const { framing } = edit
      const own = framing === null ? [] : edit.visits.map((visit) => [visit, framing] as const)
      return { ...programme, framings: Object.fromEntries([...others, ...own]) }
    }
    case 'looked':
      return withChangedUnder(
        programme,
        (programme.changedUnder ?? []).filter((visit) => !edit.visits.includes(visit)),
      )
    case 'captions':
      return { ...programme, captions: edit.style }
    case 'overlay':
      visitIn(programme, edit.overlay.visit)
      return withOverlay(programme, edit.overlay)
    case 'bed':
      visitIn(programme, edit.bed.visit)
      return withBed(programme, edit.bed)
    case 'bare':
      return withoutHung(programme, edit.ids)
    case 'voice':
      return withTreatment(programme, edit.stretches, [...visitsIn(programme, edit.visits)], edit.treatment)
    case 'light':
      return withLight(programme, edit.stretches, [...visitsIn(programme, edit.visits)], edit.light)
    case 'backdrop':
      return withBackdrop(programme, edit.stretches, [...visitsIn(programme, edit.visits)], edit.backdrop)
    case 'ink': {
      visitIn(programme, edit.visit)
      return changeInk(programme, edit.visit, edit.strokes, edit.change)
    }
    case 'draw': {
      visitIn(programme, edit.ink.visit)
      return { ...programme, inkAdded: [...programme.inkAdded, edit.ink] }
    }
    case 'all':
      return edit.edits.reduce(applyProgrammeEdit, programme)
    default:
      return unreachable(edit)
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
  const [first] = pieces
  if (first === undefined) throw new Refusal('not-found', 'This recording is not there any more.')
  // Also where it waits in a cut: there can be one visit of a name.
  const shown = programme.pieces.some((piece) => piece.visit !== visit && piece.visit === first.visit)
  return retakeVisit(programme, visit, shown ? asVisit(programme, pieces, visitShownAgain(programme, first.visit, name)) : pieces, {})
}

import { WHOLE, framingOf, stageRect } from '@core/layout'
import { objectsAt } from '@core/objects'
import type { ObjectScene } from '@core/objects'
import { faceDressing, pieceLength, pieceStarts, shownSpan, sourceAt } from '@core/programme'
import type { FaceDressing } from '@core/programme'
import type {
  Caption,
  Film,
  Framing,
  Ms,
  Piece,
  PlayedClip,
  Point,
  RecordedPiece,
  Rect,
  Slide,
  SlideId,
  Span,
  Step,
  StillId,
  StillPiece,
  Stretch,
  StretchId,
  Transition,
} from '@core/model'
import { carriedInk } from './carried-ink'
import { abovePlace, captionAt, filmCaptions } from './film-captions'
import type { CaptionScene, FilmCaptions } from './film-captions'
import { clipsOn, startedByItself, startedFrom } from './clips-on'
import type { ClipScene } from './clips-on'
import { NOTHING_OVER, filmOverlays, overlaysAt } from './film-overlays'
import type { FilmOverlay, OverlayScene } from './film-overlays'
import { EASE, REVEAL, TRANSITION, eased, framingBetween, rectBetween, sameFraming } from './change'
import { lastNotAfter } from './search'
import { groundOf, heldStretch, inkAfterwards, withInkAfterwards } from './ink-afterwards'
import type { InkAfterwards } from './ink-afterwards'
import { drawnStroke, trackOf } from './track'
import type { DrawnStroke, LyingStroke, Track } from './track'

/** The camera picture over the slide: which recording, at which of its times, in which framing. */
export interface InsetScene extends FaceDressing {
  readonly stretch: StretchId
  readonly at: Ms
  readonly framing: Framing
}

/** A slide as it stands in the frame. */
export interface SlideView {
  /** null: the screen is blanked. */
  readonly shown: Step | null
  /** What moves or sounds on it, below the ink. */
  readonly clips: readonly ClipScene[]
  /** What was drawn on the slide itself, over its clips. */
  readonly objects: readonly ObjectScene[]
  readonly ink: readonly DrawnStroke[]
  /** The pointer's spot, in fractions of the slide. */
  readonly spot: Point | null
  /** The part of the frame that the slide has; all of it unless it shares with the face. */
  readonly stage: Rect
  /** How far what is new on the step has come in, 0 to 1. */
  readonly revealProgress: number
  /** What is seen below a step that fades in; left out: it does not. */
  readonly revealFrom?: Step
}

/** All that is seen and heard at one moment of a film. */
export interface Scene extends SlideView {
  readonly slide: SlideId
  readonly step: number
  readonly inset: InsetScene | null
  readonly voice: { readonly stretch: StretchId; readonly at: Ms } | null
  /** One slide is taking the place of another: which, how, and how far, 0 to 1. */
  readonly transition: { readonly kind: Exclude<Transition, 'cut'>; readonly progress: number; readonly from: SlideView } | null
  /** What lies over it, the lowest first. */
  readonly overlays: readonly OverlayScene[]
  /** What is to be read on the picture. */
  readonly caption: CaptionScene | null
}

/** A film prepared for asking what is on screen at any time. */
export interface FilmIndex {
  readonly film: Film
  readonly length: Ms
  /** When each piece starts, and last the film's length. */
  readonly starts: readonly Ms[]
  readonly tracks: ReadonlyMap<StretchId, Track>
  /** Ink on what is held without a recording, in its own time. */
  readonly heldTracks: ReadonlyMap<StillId, Track>
  /** Ink that was added to another piece of the same visit, by piece. */
  readonly carried: ReadonlyMap<number, readonly LyingStroke[]>
  /** Of each piece the one that is played before it; -1: none is. */
  readonly before: readonly number[]
  readonly framings: ReadonlyMap<SlideId, Framing>
  readonly overlays: readonly FilmOverlay[]
  /** What stands on the picture to be read; null: nothing does. */
  readonly captions: FilmCaptions | null
}

/** Stretches that a piece names, for what it shows, for its voice, its camera or its ink. */
export function stretchesOf(piece: Piece): readonly StretchId[] {
  if (piece.kind === 'still') return piece.of === undefined ? [] : [piece.of.stretch]
  return [piece.show, piece.voice, piece.camera].flatMap((span) => span?.stretch ?? [])
}

function heldTracksOf({ programme }: Film, ink: InkAfterwards): ReadonlyMap<StillId, Track> {
  const tracks = new Map<StillId, Track>()
  for (const piece of programme.pieces) {
    if (piece.kind !== 'still' || tracks.has(piece.still)) continue
    tracks.set(piece.still, trackOf(withInkAfterwards(heldStretch(piece), ink, groundOf(piece))))
  }
  return tracks
}

/** Of each piece the one that is played before it. */
function playedBefore(pieces: readonly Piece[]): readonly number[] {
  let last = -1
  return pieces.map((piece, n) => {
    const before = last
    if (piece.out === undefined) last = n
    return before
  })
}

/**
 * Prepares a film. Costs a pass over its cues; ask `sceneAt` as often as needed afterwards.
 * @throws Error when the programme plays a slide or stretch that the film lacks
 */
export function indexFilm(film: Film): FilmIndex {
  const tracks = new Map<StretchId, Track>()
  const seen = new Map<StretchId, Stretch>()
  const ink = inkAfterwards(film.programme)
  for (const piece of film.programme.pieces) {
    if (piece.out !== undefined) continue
    for (const id of stretchesOf(piece)) {
      if (tracks.has(id)) continue
      const stretch = withInkAfterwards(stretchOf(film, id), ink)
      seen.set(id, stretch)
      tracks.set(id, trackOf(stretch))
    }
  }
  const starts = pieceStarts(film.programme)
  const framings = new Map([...film.slides.values()].map((slide) => [slide.id, framingOf(slide, film.shape)]))
  return {
    film,
    length: starts.at(-1) ?? 0,
    starts,
    tracks,
    heldTracks: heldTracksOf(film, ink),
    carried: carriedInk(film, seen, ink),
    before: playedBefore(film.programme.pieces),
    framings,
    overlays: filmOverlays(film),
    captions: null,
  }
}

/** A film as it is below all that lies over it. */
export const withoutOverlays = (index: FilmIndex): FilmIndex => ({ ...index, overlays: [] })

/** A film with captions on its picture; null: without any. What was prepared of it is not prepared again. */
export const withCaptions = (index: FilmIndex, captions: readonly Caption[] | null): FilmIndex => ({
  ...index,
  captions: captions === null ? null : filmCaptions(index, captions),
})

/**
 * What a piece shows while it lasts: its track, where on that it begins, and at what rate it goes on; null when there is none, or it
 * was cut.
 */
export function trackIn(index: FilmIndex, number: number): { readonly track: Track; readonly span: Pick<Span, 'from' | 'rate'> } | null {
  const piece = index.film.programme.pieces[number]
  if (piece === undefined || piece.out !== undefined) return null
  const track = piece.kind === 'still' ? index.heldTracks.get(piece.still) : index.tracks.get(piece.show.stretch)
  if (track === undefined) return null
  return { track, span: shownSpan(piece) }
}

/** @throws Error when the film lacks it */
export function stretchOf(film: Film, id: StretchId): Stretch {
  const stretch = film.stretches.get(id)
  if (stretch === undefined) throw new Error(`the film lacks stretch ${id}`)
  return stretch
}

/** The slide a programme shows, in the version that it names. */
export function slideOf(film: Film, id: SlideId): Slide {
  const slide = film.slides.get(id)
  if (slide === undefined) throw new Error(`the film lacks slide ${id}`)
  return slide
}

/** The step of a slide, or its last when a newer version has fewer. */
export const stepOf = (slide: Slide, step: number): Step => {
  const found = slide.steps[Math.min(step, slide.steps.length - 1)]
  if (found === undefined) throw new Error(`slide ${slide.id} has no step`)
  return found
}

/** The last moment of a film or piece is so much before its end, in ms: all that is sampled lies inside. */
export const LAST_MOMENT = 1e-3

/** Which piece is on at `t`, and how far into it. Past the end it is the last moment of the last piece. */
export function pieceAt(index: FilmIndex, t: Ms): { readonly piece: Piece; readonly number: number; readonly into: Ms } | null {
  const { pieces } = index.film.programme
  const clamped = Math.max(0, Math.min(t, index.length - LAST_MOMENT))
  // One that was cut takes no time and starts where the next one does, so it is never the last that has started.
  let number = Math.min(pieces.length - 1, lastNotAfter(index.starts, clamped))
  while (number >= 0 && pieces[number]?.out !== undefined) number -= 1
  const piece = pieces[number]
  if (piece === undefined) return null
  return { piece, number, into: clamped - (index.starts[number] ?? 0) }
}

/**
 * What is on screen and what is heard at a time of the film.
 * @param t ms from the film's beginning; need not be whole, since frames do not fall on milliseconds
 * @returns null for a film without pieces
 */
export function sceneAt(index: FilmIndex, t: Ms): Scene | null {
  const found = pieceAt(index, t)
  return found === null ? null : sceneIn(index, found.number, found.into)
}

const drawnAt = (track: Track | undefined, slide: SlideId, at: Ms): readonly DrawnStroke[] => track?.drawnAt(slide, at) ?? []

/** What lies on a piece from others of its visit, below its own ink. */
function withCarried(index: FilmIndex, number: number, at: Ms, ink: readonly DrawnStroke[]): readonly DrawnStroke[] {
  const carried = index.carried.get(number)
  return carried === undefined ? ink : [...carried.filter((lying) => at < lying.until).map((lying) => drawnStroke(lying, at)), ...ink]
}

/** Clips that play on a slide that is held: as they were at the moment whose ink lies on it, or those that begin by themselves. */
export const startedByHolding = (index: FilmIndex, { of, slide, step }: StillPiece): readonly PlayedClip[] =>
  of === undefined
    ? startedByItself(slideOf(index.film, slide), step)
    : (index.tracks.get(of.stretch)?.clipsAt(of.at) ?? []).map((clip) => ({ ...startedFrom(clip, of.at), playing: false }))

/** A slide that is held without a recording. @param at in its own time */
function heldMoment(index: FilmIndex, number: number, piece: StillPiece, at: Ms): Scene {
  const slide = slideOf(index.film, piece.slide)
  const lying = piece.of === undefined ? [] : drawnAt(index.tracks.get(piece.of.stretch), piece.slide, piece.of.at)
  return {
    slide: piece.slide,
    step: piece.step,
    shown: stepOf(slide, piece.step),
    clips: clipsOn(slide, piece.step, startedByHolding(index, piece), at),
    objects: objectsAt(slide, piece.step, Infinity, index.film.shape),
    ink: withCarried(index, number, at, [...lying, ...drawnAt(index.heldTracks.get(piece.still), piece.slide, at)]),
    spot: null,
    stage: WHOLE,
    revealProgress: 1,
    inset: null,
    voice: null,
    transition: null,
    overlays: NOTHING_OVER,
    caption: null,
  }
}

/** A moment of a piece by itself, as if nothing came before it, without what is to be read. */
function momentIn(index: FilmIndex, number: number, into: Ms): Scene {
  const visit = index.film.programme.pieces[number]?.visit
  const scene = wholeMoment(index, number, into)
  return visit === undefined || index.captions === null ? scene : abovePlace(scene, index.captions.places.get(visit))
}

/** A screen that is blanked. */
const NOTHING_SEEN = { shown: null, clips: [], objects: [], ink: [], spot: null } as const

/** As `momentIn`, but for room that is made for captions. */
function wholeMoment(index: FilmIndex, number: number, into: Ms): Scene {
  const piece = index.film.programme.pieces[number]
  if (piece === undefined) throw new RangeError(`no piece ${String(number)}`)
  if (piece.kind === 'still') return heldMoment(index, number, piece, piece.from + into)
  const at = sourceAt(piece.show, into)
  const track = index.tracks.get(piece.show.stretch)
  if (track === undefined) throw new Error(`the film lacks stretch ${piece.show.stretch}`)
  const slide = slideOf(index.film, piece.slide)
  // A frame drawn a little past the piece's end still belongs to its slide.
  const shown = track.shownAt(Math.min(at, piece.show.to - 1))
  const blank = track.blankAt(at)
  const inset = blank || !track.insetAt(at) ? null : insetIn(index, piece, into)
  return {
    slide: piece.slide,
    step: shown.step,
    ...(blank
      ? NOTHING_SEEN
      : {
          shown: stepOf(slide, shown.step),
          clips: clipsOn(slide, shown.step, track.clipsAt(at), at),
          objects: objectsAt(slide, shown.step, at - shown.moves, index.film.shape),
          ink: withCarried(index, number, at, drawnAt(track, piece.slide, at)),
          spot: track.spotAt(at),
        }),
    stage: inset === null ? WHOLE : stageRect(inset.framing),
    ...revealAt(slide, shown, at),
    inset,
    voice: piece.voice === null ? null : { stretch: piece.voice.stretch, at: sourceAt(piece.voice, into) },
    transition: null,
    overlays: NOTHING_OVER,
    caption: null,
  }
}

/** The face in a piece; null where there is none, whatever its recording shows. */
function insetIn({ film, framings }: FilmIndex, piece: RecordedPiece, into: Ms): InsetScene | null {
  const framing = film.programme.framings[piece.visit] ?? framings.get(piece.slide)
  if (piece.camera === null || framing === undefined || framing.off) return null
  const { stretch } = piece.camera
  return { stretch, at: sourceAt(piece.camera, into), framing, ...faceDressing(film.programme, piece.visit, stretch) }
}

/** How far what is new on a step has come in: it does by moving or fading only where its step follows the one before. */
function revealAt(
  slide: Slide,
  { step, since, before }: ReturnType<Track['shownAt']>,
  at: Ms,
): Pick<SlideView, 'revealProgress' | 'revealFrom'> {
  const follows = before !== null && before.slide === slide.id && before.step === step - 1
  const fades = stepOf(slide, step).reveal === 'fade'
  if (!follows || at - since >= REVEAL || stepOf(slide, step).added === true || !(fades || composedReveals(slide)))
    return { revealProgress: 1 }
  const revealProgress = eased(Math.max(0, at - since) / REVEAL)
  return fades && revealProgress < 1 ? { revealProgress, revealFrom: stepOf(slide, step - 1) } : { revealProgress }
}

const composedReveals = (slide: Slide): boolean => slide.composition?.reveal === 'fade' || slide.composition?.reveal === 'slide'

/** Whether parts of a slide come in by moving or fading. */
export const reveals = (slide: Slide): boolean => composedReveals(slide) || slide.steps.some((step) => step.reveal === 'fade')

/** The last moment of what was on before a piece, when that was another slide. */
function momentBefore(index: FilmIndex, number: number): Scene | null {
  const piece = index.film.programme.pieces[number]
  const last = index.before[number] ?? -1
  const before = index.film.programme.pieces[last]
  if (piece === undefined || before === undefined || before.slide === piece.slide) return null
  return momentIn(index, last, Math.max(0, pieceLength(before) - LAST_MOMENT))
}

/**
 * For how long after its beginning a piece is still changing from what was on before it.
 * @returns ms; `face` is how long the face moves, `slide` how long the slide takes to come
 */
export function changesAt(index: FilmIndex, number: number): { readonly face: Ms; readonly slide: Ms } {
  const piece = index.film.programme.pieces[number]
  const before = momentBefore(index, number)
  if (piece === undefined || before === null) return { face: 0, slide: 0 }
  const first = momentIn(index, number, 0)
  const moves = before.inset !== null && first.inset !== null && !sameFraming(before.inset.framing, first.inset.framing)
  const comes = slideOf(index.film, piece.slide).transition !== 'cut' && before.shown !== null && first.shown !== null
  const length = pieceLength(piece)
  return { face: moves ? Math.min(EASE, length) : 0, slide: comes ? Math.min(TRANSITION, length) : 0 }
}

/**
 * What is on screen `into` ms into a piece, in the piece's own time; asked for times past its end, it answers as if
 * the recording had gone on.
 * @param number of the piece in the programme
 */
export function sceneIn(index: FilmIndex, number: number, into: Ms): Scene {
  const piece = index.film.programme.pieces[number]
  if (piece === undefined) throw new RangeError(`no piece ${String(number)}`)
  const t = (index.starts[number] ?? 0) + into
  const said = index.captions && captionAt(index.captions, piece.visit, t)
  const overlays = overlaysAt(index.overlays, t)
  const now = { ...momentIn(index, number, into), overlays, caption: said }
  if (into >= TRANSITION) return now
  const before = momentBefore(index, number)
  if (before === null) return now
  const { transition: kind } = slideOf(index.film, piece.slide)
  return {
    ...now,
    ...(into < EASE ? movingFace(before, now, eased(Math.max(0, into) / EASE)) : {}),
    transition:
      kind === 'cut' || before.shown === null || now.shown === null
        ? null
        : { kind, progress: eased(Math.max(0, into) / TRANSITION), from: before },
  }
}

/** The face and the stage on their way from one scene to the next, where the face is in both and elsewhere. @param share 0 to 1 */
function movingFace(before: Scene, now: Scene, share: number): Partial<Pick<Scene, 'inset' | 'stage'>> {
  if (before.inset === null || now.inset === null || sameFraming(before.inset.framing, now.inset.framing)) return {}
  return {
    inset: { ...now.inset, framing: framingBetween(before.inset.framing, now.inset.framing, share) },
    stage: rectBetween(before.stage, now.stage, share),
  }
}

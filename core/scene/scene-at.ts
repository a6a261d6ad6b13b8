import { placeInset } from '@core/layout'
import { pieceStarts } from '@core/programme'
import type { Film, Framing, Ms, Piece, Slide, SlideId, Step, Stretch, StretchId, Stroke } from '@core/model'
import { lastNotAfter } from './search'
import { trackOf } from './track'
import type { Track } from './track'

/** A stroke as it is to be drawn now: `elapsed` ms of it, or all when null. */
export interface DrawnStroke {
  readonly stroke: Stroke
  readonly elapsed: Ms | null
}

/** The camera picture over the slide: which recording, at which of its times, in which framing. */
export interface InsetScene {
  readonly stretch: StretchId
  readonly at: Ms
  readonly framing: Framing
}

/** All that is seen and heard at one moment of a film. */
export interface Scene {
  readonly slide: SlideId
  readonly step: number
  /** null: the screen is blanked. */
  readonly shown: Step | null
  readonly ink: readonly DrawnStroke[]
  readonly inset: InsetScene | null
  readonly voice: { readonly stretch: StretchId, readonly at: Ms } | null
}

/** A film prepared for asking what is on screen at any time. */
export interface FilmIndex {
  readonly film: Film
  readonly length: Ms
  /** When each piece starts, and last the film's length. */
  readonly starts: readonly Ms[]
  readonly tracks: ReadonlyMap<StretchId, Track>
  readonly framings: ReadonlyMap<SlideId, Framing>
}

/** Framing of a slide: its own, else the emptiest place proposed from what is on it. */
export const framingOf = (slide: Slide): Framing => slide.framing ?? placeInset(slide.steps.map((step) => step.content))

/**
 * Prepares a film. Costs a pass over its cues; ask `sceneAt` as often as needed afterwards.
 * @throws Error when the programme names a slide or stretch that the film lacks
 */
export function indexFilm(film: Film): FilmIndex {
  const tracks = new Map<StretchId, Track>()
  for (const piece of film.programme.pieces) {
    if (piece.kind === 'still') continue
    for (const span of [piece.show, piece.voice, piece.camera]) {
      if (span === null || tracks.has(span.stretch)) continue
      tracks.set(span.stretch, trackOf(stretchOf(film, span.stretch)))
    }
  }
  const starts = pieceStarts(film.programme)
  const framings = new Map([...film.slides.values()].map((slide) => [slide.id, framingOf(slide)]))
  return { film, length: starts.at(-1) ?? 0, starts, tracks, framings }
}

function stretchOf(film: Film, id: StretchId): Stretch {
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

/** Which piece is on at `t`, and how far into it. Past the end it is the last moment of the last piece. */
export function pieceAt(index: FilmIndex, t: Ms): { readonly piece: Piece, readonly number: number, readonly into: Ms } | null {
  const count = index.film.programme.pieces.length
  if (count === 0) return null
  const clamped = Math.max(0, Math.min(t, index.length - 1))
  const number = Math.min(count - 1, lastNotAfter(index.starts, clamped))
  const piece = index.film.programme.pieces[number]
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
  return found === null ? null : sceneIn(index, found.piece, found.into)
}

/**
 * What is on screen `into` ms into a piece, in the piece's own time; asked for times past its end, it answers as if
 * the recording had gone on.
 */
export function sceneIn(index: FilmIndex, piece: Piece, into: Ms): Scene {
  if (piece.kind === 'still') {
    const shown = stepOf(slideOf(index.film, piece.slide), piece.step)
    return { slide: piece.slide, step: piece.step, shown, ink: [], inset: null, voice: null }
  }
  const elapsed = (into * piece.rate.num) / piece.rate.den
  const at = piece.show.from + elapsed
  const track = index.tracks.get(piece.show.stretch)
  if (track === undefined) throw new Error(`the film lacks stretch ${piece.show.stretch}`)
  const { slide } = piece
  // A frame drawn a little past the piece's end still belongs to its slide.
  const { step } = track.shownAt(Math.min(at, piece.show.to - 1))
  const blank = track.blankAt(at)
  const framing = index.framings.get(slide)
  const insetOn = piece.camera !== null && !blank && framing !== undefined && !framing.off && track.insetAt(at)
  return {
    slide,
    step,
    shown: blank ? null : stepOf(slideOf(index.film, slide), step),
    ink: blank ? [] : track.inkAt(slide, at).map(({ stroke, from, whole }) => ({ stroke, elapsed: at >= whole ? null : at - from })),
    inset: insetOn && piece.camera !== null
      ? { stretch: piece.camera.stretch, at: piece.camera.from + elapsed, framing }
      : null,
    voice: piece.voice === null ? null : { stretch: piece.voice.stretch, at: piece.voice.from + elapsed },
  }
}

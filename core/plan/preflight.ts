import { dequal } from 'dequal'
import { MOST_COVERED, coveredShare, framingOf } from '@core/layout'
import { LONG_SILENCE, mutedParts, piecesOfVisit, visitsOf } from '@core/programme'
import type { TimeRange } from '@core/programme'
import { inkOfVisit, lastNotAfter, slideOf } from '@core/scene'
import type { FilmIndex } from '@core/scene'
import { PEAKS_A_SECOND, silencesOf } from '@core/voice'
import type { Ms, Slide, SlideId, Stretch } from '@core/model'
import { heardParts, heardPieces } from './heard-parts'

/** What is worth a look before a file is made. */
export type FindingKind = 'unseen' | 'gone' | 'changed' | 'silence' | 'clipped' | 'quiet' | 'muted' | 'covered' | 'camera-lost'

/** Where something was found. */
export interface FoundPlace {
  /** In the talk, in ms; null: the slide is not in it. */
  readonly at: Ms | null
  readonly slide: SlideId
  /** For how long, in ms; of a face the share that it covers, 0 to 1; of a quiet voice its loudness in LUFS. */
  readonly amount: number
}

export interface Finding {
  readonly kind: FindingKind
  /** In order; at least one. */
  readonly places: readonly FoundPlace[]
}

/** A voice softer than this is hard to follow even when it is brought up, in LUFS. */
const TOO_QUIET = -40
/** Silences are put together from parts of at least this length, in ms. */
const LEAST: Ms = 500
/** Shorter muting is a cough that was meant to be muted, in ms. */
const MUTED: Ms = 1000
/** A peak as high as this touches full scale. */
const FULL = 255
const STEP = 1000 / PEAKS_A_SECOND

/** Whether a slide looks otherwise on the run sheet than in the film. */
const looksOtherwise = (shown: Slide, now: Slide | undefined): boolean =>
  now !== undefined &&
  now.version !== shown.version &&
  !dequal(
    now.steps.map(({ picture }) => picture),
    shown.steps.map(({ picture }) => picture),
  )

function clippedIn(peaks: readonly number[]): readonly TimeRange[] {
  const parts: TimeRange[] = []
  for (const [n, peak] of peaks.entries()) if (peak >= FULL) parts.push({ from: n * STEP, to: (n + 1) * STEP })
  return parts
}

/** Of those that have something in common the first alone. */
function firstOfEach<Item>(items: readonly Item[], of: (item: Item) => unknown): readonly Item[] {
  const seen = new Set<unknown>()
  return items.filter((item) => {
    const key = of(item)
    if (seen.has(key)) return false
    seen.add(key)
    return true
  })
}

/**
 * What is worth a look before a file is made of a talk: where it is silent, clipped, too soft or muted, where the face covers what it
 * should not or the camera gave nothing, which slides are not in it, which are only in it, and which are in it as they were before
 * they were changed.
 * @param outlines of voices by stretch; see `peaksOf`
 * @param deck the slides as the run sheet has them now
 */
export function preflight(
  index: FilmIndex,
  outlines: Readonly<Record<string, readonly number[]>>,
  deck: readonly Slide[],
): readonly Finding[] {
  const { film, starts } = index
  const { pieces } = film.programme
  const visits = visitsOf(film.programme)
  const visitStarts = visits.map((visit) => visit.start)
  const slideAt = (at: Ms): SlideId | undefined => visits[lastNotAfter(visitStarts, at)]?.slide
  const heard = heardPieces(index)
  const gather = (of: (stretch: Stretch) => readonly TimeRange[]): readonly TimeRange[] => heardParts(index, of)
  const placed = (parts: readonly TimeRange[]): readonly FoundPlace[] =>
    parts.flatMap(({ from, to }) => {
      const slide = slideAt(from)
      return slide === undefined ? [] : [{ at: from, slide, amount: to - from }]
    })

  const muted = gather(mutedParts).filter(({ from, to }) => to - from >= MUTED)
  const silent = gather((stretch) => silencesOf(outlines[stretch.id] ?? [], LEAST)).filter(
    ({ from, to }) => to - from >= LONG_SILENCE && !muted.some((part) => part.from < to && from < part.to),
  )
  const quiet = firstOfEach(heard, ({ piece }) => piece.voice.stretch)
    .filter(({ piece }) => {
      const loudness = film.stretches.get(piece.voice.stretch)?.loudness
      return loudness !== undefined && (loudness === null || loudness < TOO_QUIET)
    })
    .map(({ piece, start }): FoundPlace => ({
      at: start,
      slide: piece.slide,
      amount: film.stretches.get(piece.voice.stretch)?.loudness ?? -Infinity,
    }))
  const filmed = pieces.flatMap((piece, n) =>
    piece.kind === 'recorded' && piece.out === undefined && piece.camera !== null
      ? [{ camera: piece.camera, slide: piece.slide, at: starts[n] ?? 0 }]
      : [],
  )
  const lost = firstOfEach(filmed, ({ camera }) => camera.stretch).flatMap(({ camera, slide, at }): readonly FoundPlace[] => {
    const amount = film.stretches.get(camera.stretch)?.cameraLost ?? 0
    return amount > 0 ? [{ at, slide, amount }] : []
  })
  const covered = visits.flatMap((visit): readonly FoundPlace[] => {
    const slide = slideOf(film, visit.slide)
    const faced = piecesOfVisit(film.programme, visit).some((piece) => piece.kind === 'recorded' && piece.camera !== null)
    const framing = film.programme.framings[visit.id] ?? framingOf(slide, film.shape)
    const amount = faced
      ? coveredShare(
          slide,
          framing,
          film.shape,
          inkOfVisit(index, visit).map(({ stroke }) => stroke),
        )
      : 0
    return amount > MOST_COVERED && framing.placing === 'over' ? [{ at: visit.start, slide: visit.slide, amount }] : []
  })
  const shown = new Set(visits.map((visit) => visit.slide))
  const there = new Set(deck.map((slide) => slide.id))
  const unseen = deck
    .filter((slide) => !slide.skip && !slide.optional && !shown.has(slide.id))
    .map((slide): FoundPlace => ({ at: null, slide: slide.id, amount: 0 }))
  const gone = visits
    .filter((visit) => !there.has(visit.slide))
    .map((visit): FoundPlace => ({ at: visit.start, slide: visit.slide, amount: visit.length }))
  const now = new Map(deck.map((slide) => [slide.id, slide]))
  const changed = visits
    .filter((visit) => looksOtherwise(slideOf(film, visit.slide), now.get(visit.slide)))
    .map((visit): FoundPlace => ({ at: visit.start, slide: visit.slide, amount: 0 }))
  const found: readonly Finding[] = [
    { kind: 'unseen', places: unseen },
    { kind: 'gone', places: gone },
    { kind: 'changed', places: changed },
    { kind: 'silence', places: placed(silent) },
    { kind: 'clipped', places: placed(gather((stretch) => clippedIn(outlines[stretch.id] ?? []))) },
    { kind: 'quiet', places: quiet },
    { kind: 'muted', places: placed(muted) },
    { kind: 'covered', places: covered },
    { kind: 'camera-lost', places: lost },
  ]
  return found.filter(({ places }) => places.length > 0)
}

import { MOST_COVERED, coveredShare, framingOf } from '@core/layout'
import { LONG_SILENCE, pieceLength, visitsOf } from '@core/programme'
import { inkOfVisit, slideOf } from '@core/scene'
import type { FilmIndex } from '@core/scene'
import { PEAKS_A_SECOND, silencesOf } from '@core/voice'
import type { Ms, Slide, SlideId, Stretch } from '@core/model'
import { heardParts, heardPieces } from './heard-parts'
import type { Part } from './heard-parts'

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
  now !== undefined && now.version !== shown.version && JSON.stringify(now.steps.map(({ picture }) => picture)) !== JSON.stringify(shown.steps.map(({ picture }) => picture))

function mutedIn(stretch: Stretch): readonly Part[] {
  const parts: Part[] = []
  let since: Ms | null = null
  for (const cue of stretch.cues) {
    if (cue.kind !== 'mute') continue
    if (cue.on) since ??= cue.at
    else if (since !== null) {
      parts.push({ from: since, to: cue.at })
      since = null
    }
  }
  return since === null ? parts : [...parts, { from: since, to: stretch.length }]
}

const clippedIn = (peaks: readonly number[]): readonly Part[] => peaks.flatMap((peak, n) => (peak >= FULL ? [{ from: n * STEP, to: (n + 1) * STEP }] : []))

/**
 * What is worth a look before a file is made of a talk: where it is silent, clipped, too soft or muted, where the face covers what it
 * should not or the camera gave nothing, which slides are not in it, which are only in it, and which are in it as they were before
 * they were changed.
 * @param outlines of voices by stretch; see `peaksOf`
 * @param deck the slides as the run sheet has them now
 */
export function preflight(index: FilmIndex, outlines: Readonly<Record<string, readonly number[]>>, deck: readonly Slide[]): readonly Finding[] {
  const { film, starts } = index
  const { pieces } = film.programme
  const visits = visitsOf(film.programme)
  const slideAt = (at: Ms): SlideId | undefined => visits.findLast((visit) => visit.start <= at)?.slide
  const heard = heardPieces(index)
  const gather = (of: (stretch: Stretch) => readonly Part[]): readonly Part[] => heardParts(index, of)
  const placed = (parts: readonly Part[]): readonly FoundPlace[] => parts.flatMap(({ from, to }) => {
    const slide = slideAt(from)
    return slide === undefined ? [] : [{ at: from, slide, amount: to - from }]
  })

  const muted = gather(mutedIn).filter(({ from, to }) => to - from >= MUTED)
  const silent = gather((stretch) => silencesOf(outlines[stretch.id] ?? [], LEAST))
    .filter(({ from, to }) => to - from >= LONG_SILENCE && !muted.some((part) => part.from < to && from < part.to))
  const quiet = heard.filter(({ piece }, n) => {
    const loudness = film.stretches.get(piece.voice.stretch)?.loudness
    return loudness !== undefined && (loudness === null || loudness < TOO_QUIET) && heard.findIndex((one) => one.piece.voice.stretch === piece.voice.stretch) === n
  }).map(({ piece, start }): FoundPlace => ({ at: start, slide: piece.slide, amount: film.stretches.get(piece.voice.stretch)?.loudness ?? -Infinity }))
  const lost = pieces.flatMap((piece, n): readonly FoundPlace[] => {
    const amount = piece.kind === 'recorded' && piece.camera !== null ? film.stretches.get(piece.camera.stretch)?.cameraLost ?? 0 : 0
    const first = pieces.findIndex((one) => one.kind === 'recorded' && piece.kind === 'recorded' && one.camera?.stretch === piece.camera?.stretch) === n
    return amount > 0 && first ? [{ at: starts[n] ?? 0, slide: piece.slide, amount }] : []
  })
  const covered = visits.flatMap((visit): readonly FoundPlace[] => {
    const slide = slideOf(film, visit.slide)
    const faced = pieces.slice(...visit.pieces).some((piece) => piece.kind === 'recorded' && piece.camera !== null)
    const framing = film.programme.framings[visit.id] ?? framingOf(slide, film.shape)
    const amount = faced ? coveredShare(slide, framing, film.shape, inkOfVisit(index, visit).map(({ stroke }) => stroke)) : 0
    return amount > MOST_COVERED && framing.placing === 'over' ? [{ at: visit.start, slide: visit.slide, amount }] : []
  })
  const shown = new Set(visits.map((visit) => visit.slide))
  const there = new Set(deck.map((slide) => slide.id))
  const unseen = deck.filter((slide) => !slide.skip && !slide.optional && !shown.has(slide.id)).map((slide): FoundPlace => ({ at: null, slide: slide.id, amount: 0 }))
  const gone = visits.filter((visit) => !there.has(visit.slide)).map((visit): FoundPlace => ({ at: visit.start, slide: visit.slide, amount: pieces.slice(...visit.pieces).reduce((sum, piece) => sum + pieceLength(piece), 0) }))
  const now = new Map(deck.map((slide) => [slide.id, slide]))
  const changed = visits.filter((visit) => looksOtherwise(slideOf(film, visit.slide), now.get(visit.slide)))
    .map((visit): FoundPlace => ({ at: visit.start, slide: visit.slide, amount: 0 }))
  const found: readonly Finding[] = [
    { kind: 'unseen', places: unseen }, { kind: 'gone', places: gone }, { kind: 'changed', places: changed }, { kind: 'silence', places: placed(silent) },
    { kind: 'clipped', places: placed(gather((stretch) => clippedIn(outlines[stretch.id] ?? []))) },
    { kind: 'quiet', places: quiet }, { kind: 'muted', places: placed(muted) }, { kind: 'covered', places: covered }, { kind: 'camera-lost', places: lost },
  ]
  return found.filter(({ places }) => places.length > 0)
}

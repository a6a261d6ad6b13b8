import { dequal } from 'dequal'
import { MOST_COVERED, coveredShare, framingInVisit } from '@core/layout'
import { LONG_SILENCE, mutedParts, piecesOfVisit, rangesOverlap, visitsOf } from '@core/programme'
import type { TimeRange, Visit } from '@core/programme'
import { inkOfVisit, lastNotAfter, slideOf } from '@core/scene'
import type { FilmIndex } from '@core/scene'
import { PEAKS_A_SECOND, silencesOf } from '@core/voice'
import type { Ms, Slide, SlideId } from '@core/model'
import { clipParts } from './clip-sound'
import { heardParts, heardPieces } from './heard-parts'

/** What is worth a look before a file is made, in the order in which it is said. */
const FINDINGS = ['unseen', 'gone', 'changed', 'silence', 'clipped', 'quiet', 'muted', 'covered', 'camera-lost', 'code'] as const
export type FindingKind = (typeof FINDINGS)[number]

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

/** What is looked at before a file is made. */
interface Checked {
  readonly index: FilmIndex
  /** Peaks of voices by stretch; see `peaksOf`. */
  readonly peaks: Readonly<Record<string, readonly number[]>>
  /** Slides as the run sheet has them now. */
  readonly deck: readonly Slide[]
  readonly visits: readonly Visit[]
  /** Address of the talk's screening page; null: not known. */
  readonly page: string | null
}

/** The places of parts of the talk. */
function placed(parts: readonly TimeRange[], visits: readonly Visit[]): readonly FoundPlace[] {
  const starts = visits.map((visit) => visit.start)
  return parts.flatMap(({ from, to }) => {
    const slide = visits[lastNotAfter(starts, from)]?.slide
    return slide === undefined ? [] : [{ at: from, slide, amount: to - from }]
  })
}

const longMuted = (index: FilmIndex): readonly TimeRange[] => heardParts(index, mutedParts).filter(({ from, to }) => to - from >= MUTED)

function silence({ index, peaks, visits }: Checked): readonly FoundPlace[] {
  // While a clip plays the presenter is silent on purpose.
  const meant = [...longMuted(index), ...clipParts(index).map(({ at, length }) => ({ from: at, to: at + length }))]
  const silent = heardParts(index, (stretch) => silencesOf(peaks[stretch.id] ?? [], LEAST))
  return placed(
    silent.filter((part) => part.to - part.from >= LONG_SILENCE && !meant.some((other) => rangesOverlap(part, other))),
    visits,
  )
}

function quiet({ index }: Checked): readonly FoundPlace[] {
  return firstOfEach(heardPieces(index), ({ piece }) => piece.voice.stretch).flatMap(({ piece, start }) => {
    const loudness = index.film.stretches.get(piece.voice.stretch)?.loudness
    const tooQuiet = loudness !== undefined && (loudness === null || loudness < TOO_QUIET)
    return tooQuiet ? [{ at: start, slide: piece.slide, amount: loudness ?? -Infinity }] : []
  })
}

function covered({ index, visits }: Checked): readonly FoundPlace[] {
  const { film } = index
  return visits.flatMap((visit): readonly FoundPlace[] => {
    const slide = slideOf(film, visit.slide)
    const faced = piecesOfVisit(film.programme, visit).some((piece) => piece.kind === 'recorded' && piece.camera !== null)
    const framing = framingInVisit(film.programme, visit.id, slide, film.shape)
    if (!faced || framing.placing !== 'over') return []
    const ink = inkOfVisit(index, visit).map(({ stroke }) => stroke)
    const amount = coveredShare(slide, framing, film.shape, ink)
    return amount > MOST_COVERED ? [{ at: visit.start, slide: visit.slide, amount }] : []
  })
}

function cameraLost({ index: { film, starts } }: Checked): readonly FoundPlace[] {
  const filmed = film.programme.pieces.flatMap((piece, n) =>
    piece.kind === 'recorded' && piece.out === undefined && piece.camera !== null
      ? [{ camera: piece.camera, slide: piece.slide, at: starts[n] ?? 0 }]
      : [],
  )
  return firstOfEach(filmed, ({ camera }) => camera.stretch).flatMap(({ camera, slide, at }) => {
    const amount = film.stretches.get(camera.stretch)?.cameraLost ?? 0
    return amount > 0 ? [{ at, slide, amount }] : []
  })
}

function unseen({ deck, visits }: Checked): readonly FoundPlace[] {
  const shown = new Set(visits.map((visit) => visit.slide))
  return deck
    .filter((slide) => !slide.skip && !slide.optional && !shown.has(slide.id))
    .map((slide) => ({ at: null, slide: slide.id, amount: 0 }))
}

function gone({ deck, visits }: Checked): readonly FoundPlace[] {
  const there = new Set(deck.map((slide) => slide.id))
  return visits.filter((visit) => !there.has(visit.slide)).map(({ start, slide, length }) => ({ at: start, slide, amount: length }))
}

function changed({ index, deck, visits }: Checked): readonly FoundPlace[] {
  const now = new Map(deck.map((slide) => [slide.id, slide]))
  return visits
    .filter((visit) => looksOtherwise(slideOf(index.film, visit.slide), now.get(visit.slide)))
    .map(({ start, slide }) => ({ at: start, slide, amount: 0 }))
}

/** Addresses that codes to scan on a slide lead to. */
export const codesOn = ({ steps }: Slide): readonly string[] =>
  steps.flatMap(({ picture }) => (picture.kind === 'composed' ? picture.composition.pictures.flatMap(({ leadsTo }) => leadsTo ?? []) : []))

function code({ index, visits, page }: Checked): readonly FoundPlace[] {
  if (page === null) return []
  return visits
    .filter((visit) => codesOn(slideOf(index.film, visit.slide)).some((address) => address !== page))
    .map(({ start, slide }) => ({ at: start, slide, amount: 0 }))
}

/** How each finding is found. */
const CHECKS: Readonly<Record<FindingKind, (of: Checked) => readonly FoundPlace[]>> = {
  unseen,
  gone,
  changed,
  silence,
  clipped: ({ index, peaks, visits }) =>
    placed(
      heardParts(index, (stretch) => clippedIn(peaks[stretch.id] ?? [])),
      visits,
    ),
  quiet,
  muted: ({ index, visits }) => placed(longMuted(index), visits),
  covered,
  'camera-lost': cameraLost,
  code,
}

/**
 * What is worth a look before a file is made of a talk: where it is silent, clipped, too soft or muted, where the face covers what it
 * should not or the camera gave nothing, where a code leads to another page than the talk's, which slides are not in it, which are only
 * in it, and which are in it as they were before they were changed.
 * @param peaks of voices by stretch; see `peaksOf`
 * @param deck the slides as the run sheet has them now
 * @param page address of the talk's screening page; null: codes are not looked at
 */
export function preflight(
  index: FilmIndex,
  peaks: Readonly<Record<string, readonly number[]>>,
  deck: readonly Slide[],
  page: string | null = null,
): readonly Finding[] {
  const checked: Checked = { index, peaks, deck, visits: visitsOf(index.film.programme), page }
  return FINDINGS.map((kind) => ({ kind, places: CHECKS[kind](checked) })).filter(({ places }) => places.length > 0)
}

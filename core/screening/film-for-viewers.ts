import { AS_RECORDED, asId, clipsOfStep } from '@core/model'
import type {
  Clip,
  ClipId,
  Cue,
  Film,
  Ms,
  PathPoint,
  Piece,
  PlayedClip,
  RecordedPiece,
  Slide,
  SlideId,
  Snapshot,
  Stretch,
  Stroke,
} from '@core/model'
import { placedOverlays, shownSpan } from '@core/programme'
import { clipsPlayedIn } from '@core/session'
import { REVEAL, startedByHolding, startedFrom, stepOf } from '@core/scene'
import type { FilmIndex, LyingStroke, Track } from '@core/scene'
import { windowsCutInto } from './windows-cut-into'

/** A piece by itself, with the one recording that it is a part of: both begin and end together. */
interface PieceByItself {
  readonly piece: RecordedPiece
  readonly stretch: Stretch
}

/** What happens on a piece's slide, in the time of what it shows. */
interface Shown {
  readonly from: Ms
  readonly to: Ms
  /** The step it begins with, and cues of what is shown, blanked and pointed at. */
  readonly step: number
  readonly blank: boolean
  readonly inset: boolean
  readonly cues: readonly Cue[]
  readonly ink: readonly LyingStroke[]
  /** Clips that were started before it, as they are when it begins. */
  readonly clips: readonly PlayedClip[]
  /** How long what is drawn on its slide has been moving. */
  readonly moved: Pick<Snapshot, 'moved'>
}

/** Points of a stroke or path until a time: the first that is later ends what is on its way there. @param length ms from its beginning */
function until<Point extends PathPoint>(points: readonly Point[], length: Ms): readonly Point[] {
  const last = points.findIndex((point) => point.dt >= length)
  return last < 0 ? points : points.slice(0, last + 1)
}

/** The part of a path between two times of it, with the points that it comes from and goes to. */
function pathBetween(path: readonly PathPoint[], from: Ms, to: Ms): readonly PathPoint[] {
  const first = Math.max(
    0,
    path.findLastIndex((point) => point.dt <= from),
  )
  return until(path, to).slice(first)
}

/** A spot as far as it is seen between two times, counted from the first; none when it is not. */
function spotsBetween(cue: Extract<Cue, { kind: 'point' }>, from: Ms, to: Ms): readonly Cue[] {
  const end = cue.at + (cue.path.at(-1)?.dt ?? 0)
  if (cue.at >= to || end <= from) return []
  const path = pathBetween(cue.path, from - cue.at, to - cue.at)
  const begins = path[0]?.dt ?? 0
  return [{ ...cue, at: cue.at + begins - from, path: path.map((point) => ({ ...point, dt: point.dt - begins })) }]
}

/** Cues of a recording that are seen between two times, but for its ink; counted from the first. */
function cuesBetween(cues: readonly Cue[], slide: SlideId, from: Ms, to: Ms): readonly Cue[] {
  // A spot takes the place of the one before it, and is gone when it is itself, however long that would have gone on.
  const spot = cues.findLast((cue) => cue.kind === 'point' && cue.at <= from)
  return cues.flatMap((cue): readonly Cue[] => {
    if (cue.kind === 'point') return cue.at <= from && cue !== spot ? [] : spotsBetween(cue, from, to)
    if (cue.at <= from || cue.at >= to) return []
    if (cue.kind === 'show') return [{ ...cue, slide, at: cue.at - from }]
    return cue.kind === 'blank' || cue.kind === 'inset' || cue.kind === 'clip' ? [{ ...cue, at: cue.at - from }] : []
  })
}

/** What a piece begins with: a part of its slide that is still coming in does so from the step before. */
function openingOf(track: Track, slide: SlideId, from: Ms): Pick<Shown, 'step' | 'cues' | 'moved'> {
  const { step, since, before, moves } = track.shownAt(from)
  const comes = from - since < REVEAL && before !== null && before.slide === slide && before.step === step - 1
  return comes
    ? { step: before.step, cues: [{ kind: 'show', at: since - from, slide, step }], moved: {} }
    : { step, cues: [], moved: moves === -Infinity ? {} : { moved: from - moves } }
}

function shownBy(index: FilmIndex, number: number, piece: Piece): Shown {
  const { from, to } = shownSpan(piece)
  const carried = index.carried.get(number) ?? []
  if (piece.kind === 'still') {
    const of = piece.of === undefined ? undefined : index.tracks.get(piece.of.stretch)
    const lying = (of?.drawnAt(piece.slide, piece.of?.at ?? 0) ?? []).map(({ stroke, elapsed }): LyingStroke => {
      const held = elapsed === null ? stroke : { ...stroke, points: stroke.points.filter((point) => point.dt <= elapsed) }
      return { stroke: held, from: -Infinity, whole: -Infinity, until: Infinity }
    })
    const own = index.heldTracks.get(piece.still)?.lying(piece.slide) ?? []
    const clips = startedByHolding(index, piece).map((clip) => startedFrom(clip, from))
    return { from, to, step: piece.step, blank: false, inset: false, cues: [], ink: [...carried, ...lying, ...own], clips, moved: {} }
  }
  const track = index.tracks.get(piece.show.stretch)
  const stretch = index.film.stretches.get(piece.show.stretch)
  if (track === undefined || stretch === undefined) throw new Error(`the film lacks stretch ${piece.show.stretch}`)
  const { step, cues, moved } = openingOf(track, piece.slide, from)
  return {
    from,
    to,
    step,
    blank: track.blankAt(from),
    inset: track.insetAt(from),
    cues: [...cues, ...cuesBetween(stretch.cues, piece.slide, from, to)],
    ink: [...carried, ...track.lying(piece.slide)],
    clips: track.clipsAt(from).map((clip) => startedFrom(clip, from)),
    moved,
  }
}

/** How a stroke comes and goes between two times, and only as much of it as is drawn by the second. */
function inkCuesOf({ stroke, from: begun, until: gone }: LyingStroke, from: Ms, to: Ms): readonly Cue[] {
  const drawn: Stroke = { ...stroke, points: until(stroke.points, to - begun) }
  return [
    ...(begun === -Infinity ? [] : [{ kind: 'ink' as const, at: begun - from, stroke: drawn }]),
    ...(gone < to ? [{ kind: 'erase' as const, at: gone - from, stroke: stroke.id }] : []),
  ]
}

/** A piece as a recording of its own: nothing that was cut around it is in there. */
function byItself(index: FilmIndex, number: number, piece: Piece): PieceByItself {
  const { from, to, step, blank, inset, cues, ink, clips, moved } = shownBy(index, number, piece)
  const seen = ink.filter((lying) => lying.from < to && lying.until > from)
  const id = asId<'stretch'>(String(number))
  const span = { stretch: id, from: 0, to: to - from, rate: piece.kind === 'still' ? AS_RECORDED : piece.show.rate }
  const camera = piece.kind === 'recorded' && piece.camera !== null
  return {
    piece: { kind: 'recorded', visit: piece.visit, slide: piece.slide, show: span, voice: null, camera: camera ? span : null },
    stretch: {
      id,
      length: to - from,
      kept: to - from,
      camera,
      voice: false,
      opening: {
        slide: piece.slide,
        step,
        blank,
        inset,
        ink: seen.filter((lying) => lying.from === -Infinity).map(({ stroke }) => stroke),
        ...(clips.length === 0 ? {} : { clips }),
        ...moved,
      },
      cues: [...cues, ...seen.flatMap((lying) => inkCuesOf(lying, from, to))].sort((a, b) => a.at - b.at),
    },
  }
}

/** Steps of slides that are seen at some time. */
function stepsSeen(parts: readonly PieceByItself[]): ReadonlyMap<SlideId, ReadonlySet<number>> {
  const seen = new Map<SlideId, Set<number>>()
  for (const { piece, stretch } of parts) {
    const steps = seen.get(piece.slide) ?? new Set()
    steps.add(stretch.opening.step)
    for (const cue of stretch.cues) if (cue.kind === 'show') steps.add(cue.step)
    seen.set(piece.slide, steps)
  }
  return seen
}

/** Clips that are played in some part. */
const clipsPlayed = (parts: readonly PieceByItself[]): ReadonlySet<ClipId> =>
  new Set(parts.flatMap(({ stretch }) => clipsPlayedIn(stretch)))

/**
 * Clips that a step has which is seen, without what their files were called.
 * @param last of the steps that are seen @param sent of those that were recorded from windows
 */
const clipsForViewers = (slide: Slide, last: number, sent: ReadonlySet<ClipId>): readonly Clip[] =>
  clipsOfStep(slide, last)
    .filter(({ id, captured }) => captured !== true || sent.has(id))
    .map((clip) => ({ ...clip, name: '' }))

/** A slide without what is the presenter's own; where a step is never seen, one that is stands for it. */
function slideForViewers(slide: Slide, seen: ReadonlySet<number>, sent: ReadonlySet<ClipId>, framing: Slide['framing']): Slide {
  const last = slide.steps.length - 1
  const shown = new Set([...seen].map((step) => Math.min(step, last)))
  const first = Math.min(...shown)
  let stand = stepOf(slide, first)
  const { clips, ...rest } = slide
  return {
    ...rest,
    ...(clips === undefined ? {} : { clips: clipsForViewers(slide, Math.max(...shown), sent) }),
    notes: '',
    planned: null,
    optional: false,
    skip: false,
    framing,
    steps: slide.steps.map((step, n) => {
      if (shown.has(n)) stand = step
      return { ...stand, content: '' }
    }),
  }
}

/**
 * A film as it may be sent to those who watch it: every piece that is played as a recording of its own, with what is seen in it and
 * nothing of what was cut before, after and within; slides without private notes and without steps that are never seen. Sound and
 * camera come as media of their own in the film's time, so its pieces name no voice, and their camera only says whether a face is
 * there. Whatever is asked of it, the picture is that of the film.
 */
export function filmForViewers(index: FilmIndex): Film {
  const { film, framings } = index
  const parts = film.programme.pieces.flatMap((piece, number) => (piece.out === undefined ? [byItself(index, number, piece)] : []))
  const overlays = placedOverlays(film.programme).map(({ hung }) => hung)
  const visits = new Set(parts.map(({ piece }) => piece.visit))
  const seen = stepsSeen(parts)
  const cut = windowsCutInto(film)
  const sent = new Set([...clipsPlayed(parts)].filter((id) => !cut.has(id)))
  const slides = [...film.slides.values()].flatMap((slide) => {
    const steps = seen.get(slide.id)
    return steps === undefined ? [] : [slideForViewers(slide, steps, sent, framings.get(slide.id) ?? null)]
  })
  return {
    programme: {
      pieces: parts.map(({ piece }) => piece),
      slides: Object.fromEntries(slides.map((slide) => [slide.id, slide.version])),
      framings: Object.fromEntries(Object.entries(film.programme.framings).filter(([visit]) => visits.has(asId(visit)))),
      ...(overlays.length === 0 ? {} : { overlays }),
      inkEdits: [],
      inkAdded: [],
      revision: film.programme.revision,
    },
    shape: film.shape,
    slides: new Map(slides.map((slide) => [slide.id, slide])),
    stretches: new Map(parts.map(({ stretch }) => [stretch.id, stretch])),
  }
}

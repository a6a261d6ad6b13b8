import { dequal } from 'dequal'
import { intoSpan, pieceLength, sourceAt } from '@core/programme'
import { motionsOf } from '@core/objects'
import { REVEAL, asSeen, captionTurns, overlayTurns, changesAt, clipRuns, reveals, sceneIn, slideOf, trackIn } from '@core/scene'
import type { FilmIndex, InsetScene, Scene, Track } from '@core/scene'
import { AS_RECORDED } from '@core/model'
import type { Ms, Piece, Ratio, Span } from '@core/model'
import { GOP_FRAMES, frameAt, mostFrames, timeOfFrame } from './frame-grid'

/** Groups in a segment, so that none costs much to make again, and what happens in one does not decide how the others are made. */
const LONGEST = 2
/** A rest shorter than this is not cut off: it would cost a start of its own. */
const SHORTEST_REST: Ms = 1500
/** A still run shorter than this is drawn with its moving neighbours rather than encoded apart. */
const SHORTEST_STILL: Ms = 400

export type SegmentKind = 'still' | 'moving' | 'drawn'

/**
 * A part of the film that is made by itself. It is sampled from its own start, so that what lies before it does not
 * decide its pixels; `drawn` frames are made, of which the film takes the first `frames` (all or all but one).
 */
export interface Segment {
  /** Index of the piece it belongs to. */
  readonly piece: number
  /** Into the piece. */
  readonly from: Ms
  readonly to: Ms
  /**
   * `still` shows one picture throughout and has no camera in it. `moving` has growing ink, a camera that stays in its
   * place, a clip that plays, or a slide that comes. In a `drawn` one the face moves over the slide, or something comes over the
   * face, so that every frame is drawn whole.
   */
  readonly kind: SegmentKind
  readonly inset: InsetScene | null
  /** How much of it ink grows, a slide comes or the spot is about: there every frame is another picture. */
  readonly busy: Ms
  /** How much of the camera's recording plays in the film's time. */
  readonly tempo: Ratio
  /** Its place on the film's grid. */
  readonly firstFrame: number
  readonly frames: number
  readonly drawn: number
}

interface Part {
  readonly from: Ms
  readonly to: Ms
  readonly kind: SegmentKind
  readonly inset: InsetScene | null
  readonly busy: Ms
}

const sameInset = (a: InsetScene | null, b: InsetScene | null): boolean =>
  a === b || (a !== null && b !== null && a.stretch === b.stretch && dequal(a.framing, b.framing))

/** Times into a piece at which it may begin or cease to move. */
function boundaries(index: FilmIndex, number: number, length: Ms): readonly Ms[] {
  const piece = index.film.programme.pieces[number]
  if (piece === undefined) return [0, length]
  const { face, slide: comes } = changesAt(index, number)
  const found = trackIn(index, number)
  const start = index.starts[number] ?? 0
  const said = index.captions === null ? [] : captionTurns(index.captions, start, start + length).map((at) => at - start)
  const over = overlayTurns(index.overlays, start, start + length).map((at) => at - start)
  const played = clipRuns(index, number).flatMap((run) => [run.from, run.to])
  const whole = (inside: readonly Ms[]): readonly Ms[] =>
    [...new Set([0, ...[...inside, ...said, ...over, ...played, face, comes].filter((at) => at > 0 && at < length), length])].sort(
      (a, b) => a - b,
    )
  if (found === null) return whole([])
  const { track, span } = found
  // Exact: of a time that is rounded the moment before it is shown. Lengths of what is shown in the talk's own time are added there.
  const into = (at: Ms): Ms => intoSpan(span, at)
  const { slide } = piece
  const ink = track.growing(slide).flatMap((lying) => [lying.from, lying.whole])
  const reveal = reveals(slideOf(index.film, slide)) ? track.shows.map((at) => at + REVEAL) : []
  const moves = motionTurns(index, number, track)
  const spots = track.spots.flatMap((spot) => [spot.from, spot.to])
  return whole([...track.turns, ...ink, ...spots, ...reveal, ...moves].map(into))
}

/** Times of a recording at which something that is drawn on a piece's slide begins or ceases to move. */
function motionTurns(index: FilmIndex, number: number, track: Track): readonly Ms[] {
  const piece = index.film.programme.pieces[number]
  const drawing = piece && slideOf(index.film, piece.slide).drawing
  if (piece === undefined || drawing === undefined) return []
  return [-Infinity, ...track.shows].flatMap((at) => {
    const shown = track.shownAt(at)
    if (shown.slide !== piece.slide) return []
    return motionsOf(drawing, shown.step).flatMap(({ from, to }) => [shown.moves + from, shown.moves + to])
  })
}

/** Whether something moves in a scene besides the face. */
const isMoving = (scene: Scene): boolean =>
  scene.ink.some((drawn) => drawn.elapsed !== null) ||
  scene.transition !== null ||
  scene.revealProgress < 1 ||
  scene.spot !== null ||
  scene.overlays.some(({ there }) => there < 1) ||
  scene.objects.some(({ moving }) => moving) ||
  scene.clips.some(({ playing, clip }) => playing && clip.media.picture !== null)

function partOf(index: FilmIndex, number: number, from: Ms, to: Ms): Part {
  // One moment inside says it for the whole part: boundaries are wherever anything begins or ends.
  const scene = asSeen(sceneIn(index, number, (from + to) / 2))
  const moves = isMoving(scene)
  const inset = scene.inset === null ? null : (asSeen(sceneIn(index, number, from)).inset ?? scene.inset)
  // Over a face that the encoder lays over, nothing can come.
  const card = scene.overlays.some(({ overlay, there }) => overlay.kind === 'card' && there < 1)
  const drawn = inset !== null && (card || to <= changesAt(index, number).face)
  const changes = moves || inset !== null ? 'moving' : 'still'
  return { from, to, kind: drawn ? 'drawn' : changes, inset, busy: moves ? to - from : 0 }
}

/** Joins parts that can be made as one: moving ones with the same inset, and still ones too short to stand alone. */
function joinParts(parts: readonly Part[]): readonly Part[] {
  const joined: Part[] = []
  for (const part of parts) {
    const last = joined.at(-1)
    const short = (one: Part): boolean => one.kind === 'still' && one.to - one.from < SHORTEST_STILL
    if (
      last !== undefined &&
      last.kind !== 'drawn' &&
      part.kind !== 'drawn' &&
      sameInset(last.inset, part.inset) &&
      ((last.kind === 'moving' && part.kind === 'moving') ||
        (short(last) !== short(part) && last.kind !== part.kind) ||
        (short(last) && short(part)))
    ) {
      joined[joined.length - 1] = { ...last, to: part.to, kind: 'moving', busy: last.busy + part.busy }
    } else {
      joined.push(part)
    }
  }
  return joined
}

/** Parts begin after whole groups of the first, which are whole milliseconds at the usual rates. */
function splitLong(part: Part, camera: Span | null, fps: number): readonly Part[] {
  if (part.kind === 'still') return [part]
  const length = LONGEST * timeOfFrame(GOP_FRAMES, fps)
  const count = Math.max(1, Math.ceil((part.to - part.from - SHORTEST_REST) / length))
  const edge = (n: number): Ms => (n === count ? part.to : part.from + n * length)
  return Array.from({ length: count }, (_, n) => ({
    ...part,
    from: edge(n),
    to: edge(n + 1),
    busy: (part.busy * (edge(n + 1) - edge(n))) / (part.to - part.from),
    inset: part.inset && (camera === null ? part.inset : { ...part.inset, at: sourceAt(camera, edge(n)) }),
  }))
}

const cameraOf = (piece: Piece): Span | null => (piece.kind === 'still' ? null : piece.camera)

/**
 * Splits a film into segments at visit boundaries and wherever the inset or the movement begins or ends.
 * @param fps frames a second
 * @returns segments in order that together hold every frame of the film once
 */
export function segmentsOf(index: FilmIndex, fps: number): readonly Segment[] {
  return index.film.programme.pieces.flatMap((piece, number): readonly Segment[] => {
    if (piece.out !== undefined) return []
    const start = index.starts[number] ?? 0
    const length = pieceLength(piece)
    const edges = boundaries(index, number, length)
    const parts = edges.slice(1).map((to, n) => partOf(index, number, edges[n] ?? 0, to))
    const camera = cameraOf(piece)
    const tempo = camera?.rate ?? AS_RECORDED
    return joinParts(parts)
      .flatMap((part) => splitLong(part, camera, fps))
      .map((part): Segment => {
        const firstFrame = frameAt(start + part.from, fps)
        const frames = frameAt(start + part.to, fps) - firstFrame
        return {
          ...part,
          tempo,
          piece: number,
          firstFrame,
          frames,
          drawn: Math.max(1, frames, mostFrames(part.to - part.from, fps)),
        }
      })
      .filter((segment) => segment.frames > 0)
  })
}

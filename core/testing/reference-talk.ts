import { asId } from '@core/model'
import type { Cue, InkGround, Programme, Ratio, SlideId, Stretch, StretchId, VisitId } from '@core/model'

/** A place in a recording or a still. */
export interface Source {
  readonly ground: InkGround
  readonly at: number
}

/**
 * One millisecond of a recording or a still in a talk, with all that is said of it. The reference holds a talk as a list of these:
 * slow, and so plain that it can be seen to be right. A time of a voice or face need not be whole.
 */
export interface Moment {
  readonly visit: string
  readonly slide: SlideId
  readonly step: number | null
  readonly show: Source
  /** Ms of the talk that it takes when it is played. */
  readonly takes: number
  readonly voice: { readonly stretch: StretchId; readonly at: number; readonly rate: number } | null
  readonly camera: { readonly stretch: StretchId; readonly at: number; readonly rate: number } | null
  readonly out: string | null
}

/** Ink that was added to a talk. */
export interface ReferenceInk {
  readonly over: InkGround
  readonly at: number
  readonly stroke: string
  readonly slide: SlideId
}

/** A talk as a list of milliseconds. */
export interface ReferenceTalk {
  readonly moments: readonly Moment[]
  readonly added: readonly ReferenceInk[]
  readonly hidden: ReadonlySet<string>
}

const speed = ({ num, den }: Ratio): number => num / den

/** A programme as the reference has it. */
export function momentsOf(programme: Programme): readonly Moment[] {
  return programme.pieces.flatMap((piece) => {
    const { visit, slide, out = null } = piece
    const [from, to] = piece.kind === 'still' ? [piece.from, piece.to] : [piece.show.from, piece.show.to]
    return Array.from({ length: to - from }, (_, n): Moment => {
      if (piece.kind === 'still') {
        return {
          visit,
          slide,
          out,
          step: piece.step,
          show: { ground: { kind: 'still', id: piece.still }, at: from + n },
          takes: 1,
          voice: null,
          camera: null,
        }
      }
      const takes = 1 / speed(piece.show.rate)
      const heard = (span: typeof piece.voice): Moment['voice'] => {
        const at = span === null ? 0 : span.from + n * takes * speed(span.rate)
        return span === null || at >= span.to ? null : { stretch: span.stretch, at, rate: speed(span.rate) }
      }
      return {
        visit,
        slide,
        out,
        step: null,
        show: { ground: { kind: 'stretch', id: piece.show.stretch }, at: from + n },
        takes,
        voice: heard(piece.voice),
        camera: heard(piece.camera),
      }
    })
  })
}

/** When each moment begins in the talk; those that are out where the next one does. One more than there are moments. */
export function timesOf(moments: readonly Moment[]): readonly number[] {
  const times = [0]
  for (const { out, takes } of moments) times.push((times.at(-1) ?? 0) + (out === null ? takes : 0))
  return times
}

export const lengthOf = (moments: readonly Moment[]): number => timesOf(moments).at(-1) ?? 0

/** A take's moments: each showing of a slide that is not the one before is a visit. */
export function momentsOfTake(stretches: readonly Stretch[]): readonly Moment[] {
  let slide: SlideId | null = null
  let visit = ''
  return stretches.flatMap((stretch) =>
    Array.from({ length: stretch.kept }, (_, at): Moment => {
      const on = stretch.cues.filter((cue) => cue.kind === 'show' && cue.at <= at).at(-1)
      const shown = on?.kind === 'show' ? on.slide : stretch.opening.slide
      if (shown !== slide) visit = `${stretch.id}.${String(at)}`
      slide = shown
      const here = { stretch: stretch.id, at, rate: 1 }
      return {
        visit,
        slide: shown,
        step: null,
        show: { ground: { kind: 'stretch', id: stretch.id }, at },
        takes: 1,
        voice: stretch.voice ? here : null,
        camera: stretch.camera ? here : null,
        out: null,
      }
    }),
  )
}

const sameGround = (a: InkGround, b: InkGround): boolean => a.kind === b.kind && a.id === b.id

/** Cues of what a moment shows. */
const cuesOver = (ground: InkGround, stretches: ReadonlyMap<StretchId, Stretch>): readonly Cue[] =>
  ground.kind === 'still' ? [] : (stretches.get(ground.id)?.cues ?? [])

/** Whether an event takes a stroke off. */
const takesOff = (cue: Cue, stroke: string, slide: SlideId): boolean =>
  (cue.kind === 'wipe' && cue.slide === slide) || (cue.kind === 'erase' && cue.stroke === stroke)

/** Whether a stroke that was added at a time has been taken off by another: what happened in the same millisecond came before it. */
const isGone = (cues: readonly Cue[], stroke: string, slide: SlideId, since: number, at: number): boolean =>
  cues.some((cue) => cue.at > since && cue.at <= at && takesOff(cue, stroke, slide))

/** Ids of the ink that a moment shows of its own, as if nothing came before it. */
function ownInk(talk: ReferenceTalk, { show, slide }: Moment, stretches: ReadonlyMap<StretchId, Stretch>): readonly string[] {
  const cues = cuesOver(show.ground, stretches)
  const opening = show.ground.kind === 'still' ? [] : (stretches.get(show.ground.id)?.opening.ink ?? [])
  const recorded = [
    ...opening.map((stroke) => ({ stroke: String(stroke.id), slide: stroke.slide, at: -1, later: cues })),
    // Of events in one millisecond the later ones are those that come later in the list.
    ...cues.flatMap((cue, n) =>
      cue.kind === 'ink' ? [{ stroke: String(cue.stroke.id), slide: cue.stroke.slide, at: cue.at, later: cues.slice(n + 1) }] : [],
    ),
  ]
  const added = talk.added
    .filter(({ over }) => sameGround(over, show.ground))
    .map((ink) => ({ ...ink, later: cues.filter((cue) => cue.at > ink.at) }))
  return [...recorded, ...added]
    .filter(
      ({ stroke, slide: on, at, later }) =>
        on === slide && at <= show.at && !talk.hidden.has(stroke) && !later.some((cue) => cue.at <= show.at && takesOff(cue, stroke, on)),
    )
    .map(({ stroke }) => stroke)
}

/** Ids of all ink that a moment of a talk shows: its own, and what was added before it in its visit and not wiped since. */
export function inkAt(talk: ReferenceTalk, index: number, stretches: ReadonlyMap<StretchId, Stretch>): ReadonlySet<string> {
  const moment = talk.moments[index]
  if (moment === undefined) return new Set()
  let begin = index
  while (begin > 0 && talk.moments[begin - 1]?.visit === moment.visit) begin -= 1
  const lying = new Map<string, InkGround>()
  for (const passed of talk.moments.slice(begin, index + 1)) {
    if (passed.out !== null) continue
    const { ground, at } = passed.show
    const cues = cuesOver(ground, stretches)
    for (const [stroke] of lying) if (isGone(cues, stroke, passed.slide, at - 1, at)) lying.delete(stroke)
    for (const ink of talk.added) {
      if (!sameGround(ink.over, ground) || ink.slide !== passed.slide || ink.at > at || talk.hidden.has(ink.stroke)) continue
      if (isGone(cues, ink.stroke, ink.slide, ink.at, at)) lying.delete(ink.stroke)
      else lying.set(ink.stroke, ground)
    }
  }
  const carried = [...lying].filter(([, ground]) => !sameGround(ground, moment.show.ground)).map(([stroke]) => stroke)
  return new Set([...carried, ...ownInk(talk, moment, stretches)])
}

/** Visits that are played, in order. */
export const playedVisits = (moments: readonly Moment[]): readonly VisitId[] =>
  [...new Set(moments.filter(({ out }) => out === null).map(({ visit }) => visit))].map((visit) => asId<'visit'>(visit))

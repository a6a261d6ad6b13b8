import { PLAIN_FRAMING } from '@core/model'
import { piecesOfTake } from '@core/programme'
import type { Film, Framing, Ms, Slide, SlideId, Stretch, StretchId, TakeId } from '@core/model'

/** Where the face is in a film of it alone: it fills the picture. */
const FACE_ALONE: Framing = { ...PLAIN_FRAMING, placing: 'full', rect: { x: 0, y: 0, w: 1, h: 1 }, border: 'none' }

/** When each of some stretches begins, one after the other, and last when all are over. */
export function startsOf(stretches: readonly Pick<Stretch, 'id' | 'length'>[]): {
  readonly starts: ReadonlyMap<StretchId, Ms>
  readonly length: Ms
} {
  const starts = new Map<StretchId, Ms>()
  let length = 0
  for (const stretch of stretches) {
    starts.set(stretch.id, length)
    length += stretch.length
  }
  return { starts, length }
}

/** A stretch in which the face is never put away. */
const alwaysFaced = (stretch: Stretch): Stretch => ({
  ...stretch,
  opening: { ...stretch.opening, inset: true },
  cues: stretch.cues.filter(({ kind }) => kind !== 'inset'),
})

/** Slides of which each is there from its first moment on: nothing comes over it in a while. */
const withCuts = (slides: ReadonlyMap<SlideId, Slide>): ReadonlyMap<SlideId, Slide> =>
  new Map([...slides].map(([id, slide]) => [id, { ...slide, transition: 'cut' }]))

/**
 * A take from its first to its last moment as a film of one thing alone: its slides with their ink, or its face.
 * @param stretches of it, all that are in the film
 * @param of the talk's film: what was done to its ink counts
 */
export function filmOfTake(
  id: TakeId,
  stretches: readonly Stretch[],
  which: 'slides' | 'face',
  slides: ReadonlyMap<SlideId, Slide>,
  { programme, shape }: Film,
): Film {
  const whole = stretches.map((stretch) => ({ ...(which === 'face' ? alwaysFaced(stretch) : stretch), kept: stretch.length }))
  const pieces = piecesOfTake({ id, kind: 'full', stretches: whole }).map((piece) =>
    piece.kind === 'recorded' ? { ...piece, voice: null, camera: which === 'face' ? piece.camera : null } : piece,
  )
  return {
    shape,
    programme: {
      pieces,
      slides: Object.fromEntries([...slides.values()].map((slide) => [slide.id, slide.version])),
      framings: which === 'face' ? Object.fromEntries(pieces.map(({ visit }) => [visit, FACE_ALONE])) : {},
      inkEdits: programme.inkEdits,
      inkAdded: programme.inkAdded,
      revision: programme.revision,
    },
    slides: withCuts(slides),
    stretches: new Map(whole.map((stretch) => [stretch.id, stretch])),
  }
}

/** A film of its faces alone, in its own time; null: nobody is seen in it. */
export function filmOfFaces(film: Film): Film | null {
  const { programme } = film
  if (!programme.pieces.some((piece) => piece.kind === 'recorded' && piece.out === undefined && piece.camera !== null)) return null
  return {
    ...film,
    programme: { ...programme, framings: Object.fromEntries(programme.pieces.map(({ visit }) => [visit, FACE_ALONE])) },
    slides: withCuts(film.slides),
    stretches: new Map([...film.stretches].map(([id, stretch]) => [id, alwaysFaced(stretch)])),
  }
}

import { pieceLength, visitsOf } from '@core/programme'
import { slideOf } from '@core/scene'
import { AS_RECORDED } from '@core/model'
import type { EditList, EditMedia, EditPart, EditTrack } from '@core/formats'
import type { FilmIndex } from '@core/scene'
import type { Ms, Piece, Span, StretchId } from '@core/model'

/** The files of one take, in the time of its stretches one after the other. */
export interface StemsOfTake {
  readonly slides: EditMedia
  /** null: it has no camera. */
  readonly face: EditMedia | null
  /** null: it has no voice. */
  readonly voice: EditMedia | null
  /** When each of its stretches begins in them. */
  readonly starts: ReadonlyMap<StretchId, Ms>
}

/** Files that an edit is made of. */
export interface Stems {
  readonly takes: readonly StemsOfTake[]
  /** A picture of what a slide shows that is held without a recording, by slide and step; null: there is none. */
  readonly still: (slide: string, step: number) => EditMedia | null
}

const gap = (length: Ms): EditPart => ({ kind: 'gap', length })

/** A span of a recording as a part of a take's file. */
function partOf(span: Span | null, which: 'slides' | 'face' | 'voice', length: Ms, { takes }: Stems): EditPart {
  if (span === null) return gap(length)
  const take = takes.find(({ starts }) => starts.has(span.stretch))
  const media = take?.[which] ?? null
  if (take === undefined || media === null) return gap(length)
  const from = (take.starts.get(span.stretch) ?? 0) + span.from
  return { kind: 'media', media, name: media.file, from, length, playbackRate: span.rate }
}

function stillPart(piece: Extract<Piece, { kind: 'still' }>, length: Ms, stems: Stems): EditPart {
  const take = piece.of === undefined ? undefined : stems.takes.find(({ starts }) => starts.has(piece.of!.stretch))
  if (piece.of !== undefined && take !== undefined)
    return { kind: 'held', media: take.slides, name: take.slides.file, at: (take.starts.get(piece.of.stretch) ?? 0) + piece.of.at, length }
  const media = stems.still(piece.slide, piece.step)
  return media === null ? gap(length) : { kind: 'media', media, name: media.file, from: 0, length, playbackRate: AS_RECORDED }
}

/** What one kind of file has in a piece. */
function partFor(piece: Piece, which: 'slides' | 'face' | 'voice', stems: Stems): EditPart {
  const length = pieceLength(piece)
  if (piece.kind === 'still') return which === 'slides' ? stillPart(piece, length, stems) : gap(length)
  const span = { slides: piece.show, face: piece.camera, voice: piece.voice }[which]
  return partOf(span, which, length, stems)
}

const trackOf = (name: string, kind: EditTrack['kind'], which: 'slides' | 'face' | 'voice', pieces: readonly Piece[], stems: Stems) => ({
  name,
  kind,
  parts: pieces.map((piece) => partFor(piece, which, stems)),
})

/** A film as an edit of its takes: the slides below, the face over them, the voice; with a mark for every showing of a slide. */
export function editListOf({ film }: FilmIndex, name: string, fps: number, stems: Stems): EditList {
  const pieces = film.programme.pieces.filter(({ out }) => out === undefined)
  return {
    name,
    fps,
    tracks: [
      trackOf('Slides', 'Video', 'slides', pieces, stems),
      trackOf('Face', 'Video', 'face', pieces, stems),
      trackOf('Voice', 'Audio', 'voice', pieces, stems),
    ],
    marks: visitsOf(film.programme).map(({ slide, start, length }) => ({ name: slideOf(film, slide).title, at: start, length })),
  }
}

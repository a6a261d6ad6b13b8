import { WHOLE, contentOfInk, contentOfSteps, faceRect, mergeContent, stageRect, summed } from '@core/layout'
import { extentOf, placeCaption, within } from '@core/captions'
import type { CaptionPlace } from '@core/captions'
import { USUAL_CAPTIONS } from '@core/model'
import type { Caption, CaptionStyle, Film, Framing, Ms, Rect, StillId, StretchId, Stroke, VisitId } from '@core/model'
import { piecesOfVisit, shownSpan, visitsOf } from '@core/programme'
import type { Visit } from '@core/programme'
import { faceInVisit } from './face-in-visit'
import type { FilmOverlay } from './film-overlays'
import { lastNotAfter } from './search'
import type { Track } from './track'

/** Words that stand on the picture. */
export interface CaptionScene extends Pick<CaptionPlace, 'middle' | 'foot'> {
  readonly lines: readonly string[]
  readonly style: CaptionStyle
}

/** A film's captions, made ready to be asked which one is up, and where. */
export interface FilmCaptions {
  readonly captions: readonly Caption[]
  /** When each begins. */
  readonly starts: readonly Ms[]
  readonly style: CaptionStyle
  readonly places: ReadonlyMap<VisitId, CaptionPlace>
}

/** What captions are placed by. */
interface FilmParts {
  readonly film: Film
  readonly overlays: readonly FilmOverlay[]
  readonly tracks: ReadonlyMap<StretchId, Track>
  readonly heldTracks: ReadonlyMap<StillId, Track>
}

/** Times are sums: a caption that begins at one has begun. In ms. */
const GRAIN = 1e-6

/** Captions that are up at some time between two. */
function captionsBetween({ captions, starts }: Pick<FilmCaptions, 'captions' | 'starts'>, from: Ms, to: Ms): readonly Caption[] {
  const first = Math.max(0, lastNotAfter(starts, from))
  const last = lastNotAfter(starts, to)
  return captions.slice(first, last + 1).filter((caption) => caption.from < to && caption.until > from)
}

/** All ink that lies on a visit's slide at some time of it. */
function inkIn({ film, tracks, heldTracks }: FilmParts, visit: Visit): readonly Stroke[] {
  return piecesOfVisit(film.programme, visit).flatMap((piece) => {
    const track = piece.kind === 'still' ? heldTracks.get(piece.still) : tracks.get(piece.show.stretch)
    const { from, to } = shownSpan(piece)
    return (track?.lying(visit.slide) ?? []).filter((lying) => lying.from < to && lying.until > from).map(({ stroke }) => stroke)
  })
}

/** Where something lies over a visit that words are not to hide; a card they stand on. */
const platesIn = ({ overlays }: FilmParts, { start, length }: Visit): readonly Rect[] =>
  overlays.filter((one) => one.overlay.kind !== 'card' && one.from < start + length && one.to > start).map(({ box }) => box)

/** Makes captions ready. Where they stand is found visit by visit, and stays the same within each. */
export function filmCaptions(parts: FilmParts, captions: readonly Caption[]): FilmCaptions {
  const { film } = parts
  const style = film.programme.captions ?? USUAL_CAPTIONS
  const ready = { captions, starts: captions.map(({ from }) => from) }
  const places = new Map<VisitId, CaptionPlace>()
  let before: CaptionPlace | null = null
  for (const visit of visitsOf(film.programme)) {
    const slide = film.slides.get(visit.slide)
    const there = captionsBetween(ready, visit.start, visit.start + visit.length)
    if (slide === undefined || there.length === 0) continue
    const framing = faceInVisit(film, visit, slide)
    const content = summed(mergeContent([...contentOfSteps(slide, film.shape), contentOfInk(inkIn(parts, visit))]))
    before = placeCaption(
      style.place,
      extentOf(
        there.map(({ lines }) => lines),
        style,
        film.shape,
      ),
      {
        content,
        stage: framing === null ? WHOLE : stageRect(framing),
        face: framing === null ? null : faceRect(framing),
        over: platesIn(parts, visit),
      },
      before,
    )
    places.set(visit.id, before)
  }
  return { ...ready, style, places }
}

/** The caption that is up at a time of the film; null: none is. @param visit that is shown */
export function captionAt({ captions, starts, style, places }: FilmCaptions, visit: VisitId, t: Ms): CaptionScene | null {
  const caption = captions[lastNotAfter(starts, t + GRAIN)]
  const place = places.get(visit)
  if (caption === undefined || place === undefined || t + GRAIN >= caption.until) return null
  return { lines: caption.lines, style, middle: place.middle, foot: place.foot }
}

/** When captions come and go between two times of the film, ascending. */
export const captionTurns = (all: FilmCaptions, from: Ms, to: Ms): readonly Ms[] =>
  captionsBetween(all, from, to).flatMap(({ from, until }) => [from, until])

/** What of a scene lies in the picture, and gives way to a strip below it. */
interface InPicture {
  readonly stage: CaptionPlace['picture']
  readonly inset: { readonly framing: Framing } | null
}

/** A scene whose picture has a part of the frame alone, because captions have the rest. */
export function abovePlace<Scene extends InPicture>(scene: Scene, place: CaptionPlace | undefined): Scene {
  if (place === undefined || place.picture === WHOLE) return scene
  const { inset } = scene
  const moved = inset === null ? null : { ...inset, framing: framedIn(inset.framing, place) }
  return { ...scene, stage: within(place.picture, scene.stage), inset: moved }
}

/** A face that fills the frame, or stands beside the slide, lies in the same place of a smaller picture. */
const framedIn = (framing: Framing, { picture }: CaptionPlace): Framing => ({
  ...framing,
  placing: 'over',
  ...(framing.placing === 'over' ? {} : { outline: 'wide', border: framing.placing === 'full' ? 'none' : framing.border }),
  rect: within(picture, faceRect(framing)),
})

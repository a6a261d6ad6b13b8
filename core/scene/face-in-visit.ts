import { framingInVisit } from '@core/layout'
import { piecesOfVisit } from '@core/programme'
import type { Visit } from '@core/programme'
import type { Film, Framing, Slide } from '@core/model'

/** The framing of the face in a visit; null where no face is there. @param slide of the visit */
export function faceInVisit({ programme, shape }: Film, visit: Visit, slide: Slide): Framing | null {
  const framing = framingInVisit(programme, visit.id, slide, shape)
  const filmed = piecesOfVisit(programme, visit).some((piece) => piece.kind === 'recorded' && piece.camera !== null)
  return framing.off || !filmed ? null : framing
}

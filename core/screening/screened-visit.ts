import type { Ms, SlideId, VisitId } from '@core/model'

/** One showing of a slide as viewers see it. */
export interface ScreenedVisit {
  readonly id: VisitId
  readonly slide: SlideId
  /** Of its slide, counted from 1 in the order in which slides are shown. */
  readonly number: number
  readonly title: string
  readonly start: Ms
  readonly length: Ms
}

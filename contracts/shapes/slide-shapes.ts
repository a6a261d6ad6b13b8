import { BORDERS, LAYOUTS, MOST_PICTURES, MOST_ZOOM, OUTLINES, PLACINGS, REVEALS, THEMES } from '@core/model'
import type { ComposedPicture, Composition, Framing, Size } from '@core/model'
import { digestOf, pixels, share } from './bounds'
import { checked, flag, list, optional, real, record, text, word } from './shape'

export const FRAMING = record<Framing>({
  rect: record({ x: share, y: share, w: real(0.02, 1), h: real(0.02, 1) }),
  placing: word(PLACINGS),
  outline: word(OUTLINES),
  border: word(BORDERS),
  mirrored: flag,
  zoom: real(1, MOST_ZOOM),
  centre: record({ x: share, y: share }),
  off: flag,
})

const COMPOSED_TEXT = text(0, 6000)

export const COMPOSITION = record<Composition>({
  layout: word(LAYOUTS),
  theme: word(THEMES),
  heading: text(0, 400),
  body: COMPOSED_TEXT,
  second: COMPOSED_TEXT,
  pictures: list(
    record<ComposedPicture>({
      asset: digestOf(),
      size: record({ width: pixels, height: pixels }),
      alt: text(0, 300),
      leadsTo: optional(text(8, 2000, /^https?:\/\/.*$/)),
    }),
    0,
    MOST_PICTURES,
  ),
  reveal: word(REVEALS),
})

/** The terms of an aspect ratio, or a page's size; no side five times the other. */
export const SLIDE_SHAPE = checked(record<Size>({ width: real(1, 20_000), height: real(1, 20_000) }), ({ width, height }) =>
  width / height > 0.2 && width / height < 5 ? null : 'Slides cannot be that long or that narrow.',
)

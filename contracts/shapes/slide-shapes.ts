import {
  BORDERS,
  CLIP_GAIN,
  CLIP_STARTS,
  LAYOUTS,
  MOST_CLIPS,
  MOST_WITH_CAPTURED,
  MOST_PICTURES,
  MOST_ZOOM,
  OUTLINES,
  PLACINGS,
  REVEALS,
  SHORTEST_CLIP,
  SMALLEST_CROP,
  THEMES,
  broughtClips,
} from '@core/model'
import type { Clip, ClipId, ClipMedia, ComposedPicture, Composition, Framing, Ratio, Size } from '@core/model'
import { digestOf, distinct, ms, pixels, share } from './bounds'
import { checked, flag, list, nullable, optional, real, record, text, uuidOf, whole, word } from './shape'

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

export const CLIP_MEDIA = record<ClipMedia>({
  file: digestOf(),
  length: ms,
  picture: nullable(
    record({
      size: record<Size>({ width: pixels, height: pixels }),
      rate: record<Ratio>({ num: whole(1, 1_000_000), den: whole(1, 1_000_000) }),
      poster: digestOf(),
    }),
  ),
  sound: flag,
  loudness: nullable(real(-100, 20)),
})

const CLIP = checked(
  record<Clip>({
    id: uuidOf<ClipId>(),
    name: text(0, 200),
    media: CLIP_MEDIA,
    box: record({ x: share, y: share, w: real(0.01, 1), h: real(0.01, 1) }),
    step: whole(0, 500),
    start: word(CLIP_STARTS),
    from: ms,
    to: ms,
    loop: flag,
    gain: real(CLIP_GAIN.least, CLIP_GAIN.most),
    captured: optional(flag),
    crop: optional(record({ x: share, y: share, w: real(SMALLEST_CROP, 1), h: real(SMALLEST_CROP, 1) })),
  }),
  ({ from, to, media }) => (to - from >= SHORTEST_CLIP && to <= media.length ? null : 'A clip ends after it begins, and within its file.'),
)

/** What moves or sounds on a slide; no two of one id. */
export const CLIPS = checked(list(CLIP, 0, MOST_WITH_CAPTURED), (clips) => {
  if (broughtClips({ clips }).length > MOST_CLIPS) return `A slide takes up to ${String(MOST_CLIPS)} clips.`
  return distinct(clips.map(({ id }) => id)) ? null : 'Each clip on a slide has an id of its own.'
})

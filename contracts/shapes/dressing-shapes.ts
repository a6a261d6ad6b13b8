import { BACKDROP_FINDERS, BED_GAIN, HUMS, LIGHT_RANGE, LONGEST_FADE, MOST_WORDS_OVER } from '@core/model'
import { NOISE_WAYS, OVERLAY_LENGTH, THEMES } from '@core/model'
import type { AssetId, Backdrop, Bed, BedId, Light, NewBackdrop, Overlay, OverlayId, Point, VoiceTreatment } from '@core/model'
import { DAY, VISIT, digestOf, ms, pixels, share } from './bounds'
import { CLIP_MEDIA } from './slide-shapes'
import { checked, flag, nullable, real, record, text, uuidOf, variants, whole, word } from './shape'

const over = {
  id: uuidOf<OverlayId>(),
  visit: VISIT,
  offset: real(-DAY, DAY),
  length: real(OVERLAY_LENGTH.least, OVERLAY_LENGTH.most),
} as const
const plate = { ...over, theme: word(THEMES), at: nullable(record<Point>({ x: share, y: share })) } as const
const plateWords = text(0, MOST_WORDS_OVER.plate)

/** Something that lies over a talk. */
export const OVERLAY = variants<Overlay>({
  card: { ...over, theme: word(THEMES), heading: text(0, MOST_WORDS_OVER.heading), body: text(0, MOST_WORDS_OVER.body) },
  'lower-third': { ...plate, name: plateWords, place: plateWords },
  text: { ...plate, text: plateWords },
  picture: {
    ...over,
    asset: digestOf(),
    size: record({ width: pixels, height: pixels }),
    alt: text(0, 300),
    box: record({ x: share, y: share, w: real(0.02, 1), h: real(0.02, 1) }),
  },
})

export const LIGHT = record<Light>({
  brightness: real(LIGHT_RANGE.brightness.least, LIGHT_RANGE.brightness.most),
  contrast: real(LIGHT_RANGE.contrast.least, LIGHT_RANGE.contrast.most),
  warmth: real(LIGHT_RANGE.warmth.least, LIGHT_RANGE.warmth.most),
})

const finder = word(BACKDROP_FINDERS)
const instead = {
  soft: { finder },
  plain: { finder, colour: text(7, 7, /^#[0-9A-F]{6}$/) },
  picture: { finder, asset: digestOf<AssetId>() },
} as const

/** What is seen behind the presenter instead of the room. */
export const NEW_BACKDROP = variants<NewBackdrop>(instead)
/** What is seen behind the presenter. */
export const BACKDROP = variants<Backdrop>({ filmed: {}, ...instead })

/** Music under a talk. */
export const BED = checked(
  record<Bed>({
    id: uuidOf<BedId>(),
    visit: VISIT,
    offset: real(-DAY, DAY),
    length: nullable(real(0, DAY)),
    name: text(0, 200),
    media: CLIP_MEDIA,
    from: ms,
    repeat: flag,
    fadeIn: whole(0, LONGEST_FADE),
    fadeOut: whole(0, LONGEST_FADE),
    gain: real(BED_GAIN.least, BED_GAIN.most),
    instead: flag,
    credit: text(0, MOST_WORDS_OVER.credit),
  }),
  ({ media }) => (media.picture === null && media.sound ? null : 'Music is a sound.'),
)

export const VOICE_TREATMENT = record<VoiceTreatment>({
  noise: nullable(word(NOISE_WAYS)),
  hum: nullable(word(HUMS)),
  rumble: flag,
  sibilance: flag,
  level: flag,
})

import Joi from 'joi'
import { ARCHIVE_KIND } from '@core/archive'
import {
  CAPTION_GROUNDS,
  CAPTION_PLACES,
  CAPTION_SIZES,
  INK_COLOURS,
  MOST_BEDS,
  MOST_OVERLAYS,
  TAKE_KINDS,
  TRANSITIONS,
  WORD_SOURCES,
} from '@core/model'
import {
  BACKDROP,
  BED,
  CLIPS,
  COMPOSITION,
  DAY,
  DRAWING,
  FRAMING,
  LIGHT,
  MAX_NOTES,
  OVERLAY,
  SLIDE_SHAPE,
  STROKE,
  VOICE_TREATMENT,
} from '../shapes'
import { ms, talkTime, uuid, visit } from './bounds'
import { joiOf } from './joi-of'
import { recipe } from './recipe'
import { cue, intent, snapshot } from './take'

const digest = Joi.string().pattern(/^[0-9a-f]{64}$/)
const version = Joi.number()
  .integer()
  .min(1)
  .max(2 ** 31 - 1)
const pixels = Joi.number().min(1).max(20_000)
const size = Joi.object({ width: pixels, height: pixels }).options({ presence: 'required' })
const box = Joi.object({ x: Joi.number(), y: Joi.number(), w: Joi.number(), h: Joi.number() }).options({ presence: 'required' })
const stroke = joiOf(STROKE)
const framing = joiOf(FRAMING)

const filed = { source: digest.required(), size: size.required(), screen: digest.required(), thumb: digest.required() }
const picture = Joi.alternatives(
  Joi.object({ kind: Joi.valid('page').required(), page: Joi.number().integer().min(1).max(100_000).required(), ...filed }),
  Joi.object({
    kind: Joi.valid('image').required(),
    ground: Joi.string()
      .pattern(/^#[0-9a-fA-F]{3,8}$|^[a-z]{3,20}$|^rgba?\([\d., %]{3,40}\)$/)
      .required(),
    ...filed,
  }),
  Joi.object({
    kind: Joi.valid('composed').required(),
    composition: joiOf(COMPOSITION).required(),
    shown: Joi.number().integer().min(0).max(1000).required(),
    clear: box.allow(null).required(),
    size: size.required(),
  }),
)

const step = Joi.object({
  picture: picture.required(),
  content: Joi.string().allow('').max(10_000).required(),
  text: Joi.string().allow('').max(200_000).required(),
  links: Joi.array()
    .max(2000)
    .items(
      Joi.object({
        box: box.required(),
        address: Joi.string()
          .uri({ scheme: ['http', 'https'] })
          .max(4000)
          .required(),
      }),
    ),
  reveal: Joi.valid('fade'),
  added: Joi.valid(true),
  motions: Joi.array()
    .max(500)
    .items(Joi.object({ box: box.required(), path: Joi.string().max(20_000).required(), duration: ms.required() })),
})

const slide = Joi.object({
  id: uuid,
  position: Joi.number().integer().min(0).max(100_000).allow(null).required(),
  version: version.required(),
  title: Joi.string().allow('').max(2000).required(),
  section: Joi.string().allow('').max(2000).required(),
  notes: Joi.string().allow('').max(MAX_NOTES).required(),
  viewerNotes: Joi.string().allow('').max(MAX_NOTES).required(),
  description: Joi.string().allow('').max(MAX_NOTES).required(),
  planned: ms.allow(null).required(),
  skip: Joi.boolean().required(),
  optional: Joi.boolean().required(),
})

const slideVersion = Joi.object({
  slide: uuid,
  version: version.required(),
  steps: Joi.array().items(step).min(1).max(501).required(),
  framing: framing.allow(null).required(),
  proposedInset: Joi.object({ rect: box.required(), shape: size.required() }).allow(null).required(),
  composition: joiOf(COMPOSITION).allow(null).required(),
  clips: joiOf(CLIPS).allow(null).required(),
  /** Archives of before there were any have none. */
  drawing: joiOf(DRAWING).allow(null).default(null),
  transition: Joi.valid(...TRANSITIONS).required(),
})

/** Where a file lies in an archive: never outside of it. */
const inDeck = Joi.string().pattern(/^deck\/[^/\\]{1,200}$/)
const inRecordings = Joi.string().pattern(/^recordings\/[0-9a-z-]{1,40}\/[0-9a-z-]{1,40}$/)

const windowView = Joi.object({
  clip: uuid,
  slide: uuid,
  name: Joi.string().allow('').max(120).required(),
  at: ms.required(),
  began: ms.required(),
})

const offset = Joi.number().min(-DAY).max(DAY)
const MOST_CUES = 100_000

const stretch = Joi.object({
  id: uuid,
  number: Joi.number().integer().min(0).max(10_000).required(),
  camera: Joi.boolean().required(),
  voice: Joi.boolean().required(),
  mime: Joi.string().max(80).required(),
  opening: snapshot.required(),
  cues: Joi.array().items(cue).max(MOST_CUES).required(),
  length: ms.required(),
  kept: ms.allow(null).required(),
  offsets: Joi.object({ picture: offset.required(), sound: offset.required() }).required(),
  pictureAt: offset.allow(null).required(),
  soundAt: offset.allow(null).required(),
  timing: Joi.valid('measured', 'approximate').allow(null).required(),
  drift: Joi.number().integer().min(-100_000).max(100_000).allow(null).required(),
  tail: Joi.object({ at: offset.required(), rate: Joi.number().integer().min(8000).max(192_000).required() })
    .allow(null)
    .required(),
  peaks: Joi.array().items(Joi.number()).max(10_000_000).required(),
  loudness: Joi.number().min(-200).max(50).allow(null).required(),
  cameraLost: ms.required(),
  windowOf: Joi.string().guid({ version: 'uuidv4' }).allow(null).required(),
  windowView: windowView.allow(null).required(),
  stills: Joi.object()
    .pattern(/^\d{1,6}$/, Joi.object({ from: ms.required(), until: ms.required() }))
    .allow(null)
    .required(),
  folder: inRecordings.allow(null).required(),
  rawDigest: digest.allow(null).required(),
  voiceDigest: digest.allow(null).required(),
})

const ratio = Joi.object({ num: Joi.number().integer().min(1).required(), den: Joi.number().integer().min(1).required() })
const span = Joi.object({ stretch: uuid, from: ms.required(), to: ms.required(), rate: ratio.required() })
const inVisit = { visit: visit.required(), slide: uuid, out: Joi.string().max(300) }
const piece = Joi.alternatives(
  Joi.object({
    kind: Joi.valid('recorded').required(),
    ...inVisit,
    show: span.required(),
    voice: span.allow(null).required(),
    camera: span.allow(null).required(),
  }),
  Joi.object({
    kind: Joi.valid('still').required(),
    ...inVisit,
    still: Joi.string().max(200).required(),
    from: ms.required(),
    to: ms.greater(Joi.ref('from')).required(),
    step: Joi.number().integer().min(0).max(500).required(),
    of: Joi.object({ stretch: uuid, at: ms.required() }),
  }),
)

const inkEdit = Joi.object({
  stroke: uuid,
  visit: visit.required(),
  hidden: Joi.boolean().required(),
  colour: Joi.valid(...INK_COLOURS)
    .allow(null)
    .required(),
  shift: Joi.number().integer().min(-DAY).max(DAY).required(),
})
const inkGround = Joi.object({ kind: Joi.valid('stretch', 'still').required(), id: Joi.string().max(200).required() })

const byRecording = (value: Joi.Schema): Joi.Schema =>
  Joi.object({
    stretches: Joi.object()
      .pattern(Joi.string().guid({ version: 'uuidv4' }), value)
      .required(),
    visits: Joi.object().pattern(Joi.string().max(200), value).required(),
  })

const programme = Joi.object({
  pieces: Joi.array().items(piece).max(100_000).required(),
  slides: Joi.object()
    .pattern(Joi.string().guid({ version: 'uuidv4' }), version)
    .required(),
  framings: Joi.object().pattern(Joi.string().max(200), framing).required(),
  inkEdits: Joi.array().items(inkEdit).max(100_000).required(),
  inkAdded: Joi.array()
    .items(Joi.object({ visit: visit.required(), over: inkGround.required(), at: ms.required(), stroke: stroke.required() }))
    .max(20_000)
    .required(),
  changedUnder: Joi.array().items(visit).max(20_000),
  overlays: Joi.array().items(joiOf(OVERLAY)).max(MOST_OVERLAYS),
  beds: Joi.array().items(joiOf(BED)).max(MOST_BEDS),
  voices: byRecording(joiOf(VOICE_TREATMENT)),
  lights: byRecording(joiOf(LIGHT)),
  backdrops: byRecording(joiOf(BACKDROP)),
  captions: Joi.object({ size: Joi.valid(...CAPTION_SIZES), place: Joi.valid(...CAPTION_PLACES), ground: Joi.valid(...CAPTION_GROUNDS) }),
  revision: Joi.number().integer().min(0).required(),
})

const word = Joi.object({
  text: Joi.string().allow('').max(500).required(),
  from: talkTime.required(),
  until: talkTime.required(),
  sure: Joi.number().min(0).max(1).required(),
  source: Joi.valid(...WORD_SOURCES).required(),
})
const MOST_WORDS = 500_000

const words = Joi.object({
  stretch: uuid,
  listenedBy: Joi.valid('model', 'folder', 'pauses').allow(null).required(),
  said: Joi.object({
    words: Joi.array().items(word).max(MOST_WORDS).required(),
    unsaid: Joi.array()
      .items(Joi.object({ before: Joi.number().integer().min(0).required(), text: Joi.string().allow('').max(20_000).required() }))
      .max(MOST_WORDS)
      .required(),
  }).required(),
  corrections: Joi.array()
    .items(
      Joi.object({
        from: ms.required(),
        until: ms.required(),
        text: Joi.string().allow('').max(2000).required(),
        brought: Joi.boolean().required(),
      }),
    )
    .max(MOST_WORDS)
    .required(),
})

/** What an archive says of itself, whatever else is in it: who cannot read it says so. */
export const archiveHead = Joi.object({
  kind: Joi.valid(ARCHIVE_KIND).required(),
  version: Joi.number().integer().min(1).required(),
}).unknown()

/** A whole talk, as an archive holds it. */
export const talkArchive = Joi.object({
  kind: Joi.valid(ARCHIVE_KIND).required(),
  version: Joi.number().integer().required(),
  made: Joi.string().isoDate().required(),
  talk: Joi.object({
    name: Joi.string().min(1).max(160).required(),
    limit: ms.min(1000).allow(null).required(),
    shape: joiOf(SLIDE_SHAPE).required(),
    language: Joi.string().max(35).required(),
    recipe: recipe.required(),
    terms: Joi.array().items(Joi.string().max(100)).max(500).required(),
    presenter: Joi.string().allow('').max(100).required(),
    description: Joi.string().allow('').max(4000).required(),
  }).required(),
  slides: Joi.array().items(slide).max(5000).unique('id').required(),
  versions: Joi.array().items(slideVersion).max(50_000).required(),
  assets: Joi.array()
    .items(
      Joi.object({
        digest: digest.required(),
        mime: Joi.string().max(100).required(),
        bytes: Joi.number().integer().min(0).required(),
        file: inDeck.required(),
      }),
    )
    .max(100_000)
    .required(),
  takes: Joi.array()
    .items(
      Joi.object({
        id: uuid,
        kind: Joi.valid(...TAKE_KINDS).required(),
        intent: intent.required(),
        started: Joi.string().isoDate().required(),
        stretches: Joi.array().items(stretch).max(1000).unique('id').required(),
      }),
    )
    .max(2000)
    .unique('id')
    .required(),
  programme: programme.allow(null).required(),
  named: Joi.array()
    .items(Joi.object({ name: Joi.string().min(1).max(80).required(), programme: programme.required() }))
    .max(1000)
    .required(),
  words: Joi.array().items(words).max(100_000).unique('stretch').required(),
  links: Joi.array()
    .items(
      Joi.object({
        address: Joi.string()
          .uri({ scheme: ['http', 'https'] })
          .max(4000)
          .required(),
        title: Joi.string().allow('').max(400).required(),
      }),
    )
    .max(500)
    .required(),
  files: Joi.array()
    .items(Joi.object({ name: Joi.string().min(1).max(200).required(), digest: digest.required() }))
    .max(60)
    .required(),
})

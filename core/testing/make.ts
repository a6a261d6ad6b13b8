import { AS_RECORDED, EMPTY_PROGRAMME, asId, newSlide } from '@core/model'
import type { Bed, Clip, Cue, Film, Ms, Piece, Programme, Slide, SlideId, Step, Stretch, Stroke } from '@core/model'
import { piecesOfTake, versionsOf } from '@core/programme'
import { EMPTY_CONTENT } from '@core/layout'

/** Plain values for tests. */
export const step = (page: number, content: string = EMPTY_CONTENT): Step => ({
  picture: {
    kind: 'page',
    source: asId('f'.repeat(64)),
    page,
    size: { width: 960, height: 540 },
    screen: asId('a'.repeat(64)),
    thumb: asId('b'.repeat(64)),
  },
  content,
  text: '',
})

/** A film with sound, of 25 pictures a second. */
export const clip = (name: string, length: Ms, more: Partial<Clip> = {}): Clip => ({
  id: asId(name),
  name: `${name}.mp4`,
  media: {
    file: asId('c'.repeat(64)),
    length,
    picture: { size: { width: 640, height: 360 }, rate: { num: 25, den: 1 }, poster: asId('d'.repeat(64)) },
    sound: true,
    loudness: -20,
  },
  box: { x: 0.25, y: 0.25, w: 0.5, h: 0.5 },
  step: 0,
  start: 'click',
  from: 0,
  to: length,
  loop: false,
  gain: 0,
  ...more,
})

export const slide = (name: string, steps = 1, more: Partial<Slide> = {}): Slide =>
  newSlide(asId(name), { title: name, steps: Array.from({ length: steps }, (_, n) => step(n + 1)), ...more })

/** Music under all of a talk, repeated; its file has 20 s. */
export const bed = (more: Partial<Bed> = {}): Bed => ({
  id: asId('bed'),
  name: 'Quayside',
  media: { file: asId('c'.repeat(64)), length: 20_000, picture: null, sound: true, loudness: -20 },
  visit: asId('v'),
  offset: 0,
  length: null,
  from: 0,
  repeat: true,
  fadeIn: 1000,
  fadeOut: 2000,
  gain: -9,
  instead: false,
  credit: '',
  ...more,
})

export const stroke = (name: string, on: SlideId, length: Ms = 0): Stroke => ({
  id: asId(name),
  slide: on,
  colour: 'brick',
  width: 'fine',
  pressure: false,
  points: [
    { dt: 0, x: 0.2, y: 0.2, p: 0.5 },
    ...(length > 0
      ? [
          { dt: Math.floor(length / 2), x: 0.3, y: 0.3, p: 0.5 },
          { dt: length, x: 0.4, y: 0.2, p: 0.5 },
        ]
      : []),
  ],
})

export const stretch = (name: string, length: Ms, opening: SlideId, cues: readonly Cue[] = [], more: Partial<Stretch> = {}): Stretch => ({
  id: asId(name),
  length,
  kept: length,
  camera: true,
  voice: true,
  opening: { slide: opening, step: 0, blank: false, inset: true, ink: [] },
  cues,
  ...more,
})

/** A film of stretches one after the other. */
export function film(slides: readonly Slide[], stretches: readonly Stretch[]): Film {
  const programme: Programme = {
    ...EMPTY_PROGRAMME,
    pieces: piecesOfTake({ id: asId('take'), kind: 'full', stretches }),
    slides: versionsOf(slides),
    revision: 1,
  }
  return {
    programme,
    shape: { width: 16, height: 9 },
    slides: new Map(slides.map((one) => [one.id, one])),
    stretches: new Map(stretches.map((one) => [one.id, one])),
  }
}

export const still = (name: string, on: SlideId, length: Ms): Piece => ({
  kind: 'still',
  still: asId(name),
  visit: asId(name),
  slide: on,
  step: 0,
  from: 0,
  to: length,
})

export const recorded = (name: string, on: SlideId, from: Ms, to: Ms, rate = AS_RECORDED): Piece => {
  const span = { stretch: asId<'stretch'>('s'), from, to, rate }
  return { kind: 'recorded', visit: asId(name), slide: on, show: span, voice: span, camera: span }
}

import { wordsOf } from '@core/markup'
import type { ColourOnSlide, Ease, Entrance, MotionDeed, MotionStart, ObjectForm, ObjectKind, PathLine, TextAlign } from '@core/model'
import { wordsOnObject } from '@core/objects'
import type { Alignment, Order } from '@core/objects'

export const OBJECT_WORDS: Readonly<Record<ObjectKind, string>> = {
  text: 'Text',
  picture: 'Picture',
  line: 'Line',
  arrow: 'Arrow',
  box: 'Box',
  ellipse: 'Ellipse',
  callout: 'Callout',
  freehand: 'Line by hand',
}
export const COLOUR_WORDS: Readonly<Record<ColourOnSlide, string>> = {
  text: 'As text',
  soft: 'Soft',
  mark: 'Standing out',
  shade: 'Shade',
  ground: 'Ground',
}
export const ALIGN_WORDS: Readonly<Record<TextAlign, string>> = { start: 'at the start', middle: 'in the middle', end: 'at the end' }
export const ALIGNMENT_WORDS: Readonly<Record<Alignment, string>> = {
  left: 'Left edges',
  middle: 'Middles, side to side',
  right: 'Right edges',
  top: 'Upper edges',
  centre: 'Middles, top to bottom',
  bottom: 'Lower edges',
}
export const ORDER_WORDS: Readonly<Record<Order, string>> = {
  front: 'Before all others',
  forward: 'One forward',
  backward: 'One back',
  back: 'Behind all others',
}
export const DEED_WORDS: Readonly<Record<MotionDeed['kind'], string>> = {
  comes: 'comes',
  goes: 'goes away',
  path: 'goes along a way',
  grows: 'grows or shrinks',
  fades: 'fades',
}
export const ENTRANCE_WORDS: Readonly<Record<Entrance, string>> = { 'at-once': 'at once', fade: 'fading', grow: 'growing' }
export const LINE_WORDS: Readonly<Record<PathLine, string>> = { straight: 'straight', curved: 'curved', freehand: 'as drawn' }
export const EASE_WORDS: Readonly<Record<Ease, string>> = {
  calm: 'slow at both ends',
  even: 'evenly',
  leaving: 'slow at first',
  arriving: 'slow at last',
}
export const MOTION_START_WORDS: Readonly<Record<MotionStart, string>> = {
  step: 'as the step begins',
  together: 'with the one before',
  after: 'after the one before',
}

/** What an object is called in lists: its own words, or what it is. */
export function nameOfObject(form: ObjectForm): string {
  const words = form.kind === 'picture' ? form.alt : wordsOf(wordsOnObject(form) ?? '')
  const [first = ''] = words.trim().split('\n')
  return first === '' ? OBJECT_WORDS[form.kind] : first.slice(0, 40)
}

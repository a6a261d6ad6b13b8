import advances from './advances.json'
import type { Font } from './faces'

const index = new Map(Array.from(advances.signs, (sign, at) => [sign, at]))
/** Signs that are as wide as they are high, in East Asian scripts (Unicode, UAX 11: W and F, roughly). */
const WIDE = /[\u1100-\u115F\u2E80-\uA4CF\uAC00-\uD7A3\uF900-\uFAFF\uFE30-\uFE4F\uFF00-\uFF60\u{1F300}-\u{1FAFF}\u{20000}-\u{3FFFD}]/u
/** A sign of a script that the shipped fonts lack, and that the machine's own fonts draw. */
const UNKNOWN = 580

function advance(sign: string, table: readonly number[]): number {
  const at = index.get(sign)
  if (at !== undefined) return table[at] ?? UNKNOWN
  if (WIDE.test(sign)) return 1000
  return /\p{M}/u.test(sign) ? 0 : UNKNOWN
}

/** In a face of one width all signs are as wide, but those that are as wide as high, and marks over others. */
function codeAdvance(sign: string): number {
  if (index.has(sign)) return advances.code
  if (WIDE.test(sign)) return 1000
  return /\p{M}/u.test(sign) ? 0 : advances.code
}

/**
 * How wide a text is, from the fonts' own figures; kerning is left out, so that every machine gets the same.
 * @returns layout units
 */
export function textWidth(text: string, font: Font): number {
  if (font.face === 'code') return (Array.from(text).reduce((sum, sign) => sum + codeAdvance(sign), 0) * font.size) / 1000
  const read = font.bold ? advances.readBold : advances.read
  const table = font.face === 'display' ? advances.display : read
  let sum = 0
  for (const sign of text) sum += advance(sign, table)
  return (sum * font.size) / 1000
}

/** Signs that no line begins with (JIS X 4051 and CLREQ, roughly: closing brackets, stops, small kana, sound marks). */
const NEVER_FIRST = /[、。，．・：；？！）］｝〕〉》」』】〙〗〟’”％‰℃ーぁぃぅぇぉっゃゅょゎァィゥェォッャュョヮヵヶ々…‥～〜]/
/** Signs that no line ends with: opening brackets. */
const NEVER_LAST = /[（［｛〔〈《「『【〘〖〝‘“]/

/** Whether a line may break between two signs though no space stands there. */
export const breaksBetween = (before: string, sign: string): boolean =>
  (WIDE.test(sign) || WIDE.test(before)) && !NEVER_FIRST.test(sign) && !NEVER_LAST.test(before)

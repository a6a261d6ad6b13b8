import { toCardinal, toOrdinal } from 'n2words/en-GB'
import { primaryOf } from '@core/language'

/** A word as it sounds, and the written word that it is a part of. */
export interface SpokenToken {
  /** In small letters, with apostrophes and no other marks. */
  readonly sound: string
  /** Place of the written word. */
  readonly word: number
}

/** A text as it is written and as it is said. */
export interface SpokenText {
  /** Separated by spaces there, each with the marks that stand on it. */
  readonly words: readonly string[]
  readonly tokens: readonly SpokenToken[]
}

/** Units after a number, as they are said in English. */
const UNITS: Readonly<Record<string, string>> = {
  mm: 'millimetres',
  cm: 'centimetres',
  m: 'metres',
  km: 'kilometres',
  'm²': 'square metres',
  'm³': 'cubic metres',
  'km/h': 'kilometres an hour',
  'm/s': 'metres a second',
  g: 'grams',
  kg: 'kilograms',
  t: 'tonnes',
  l: 'litres',
  s: 'seconds',
  ms: 'milliseconds',
  min: 'minutes',
  h: 'hours',
  kn: 'knots',
  hPa: 'hectopascals',
  Hz: 'hertz',
  W: 'watts',
  kW: 'kilowatts',
  V: 'volts',
  '%': 'percent',
  '°': 'degrees',
  '°C': 'degrees celsius',
  '€': 'euros',
}
/** Signs that stand for words. */
const SIGNS: Readonly<Record<string, string>> = {
  '&': 'and',
  '+': 'plus',
  '−': 'minus',
  '±': 'plus or minus',
  '×': 'times',
  '·': 'times',
  '÷': 'divided by',
  '/': 'over',
  '=': 'equals',
  '<': 'is less than',
  '>': 'is greater than',
  '≤': 'is at most',
  '≥': 'is at least',
  '≈': 'is about',
  '√': 'the square root of',
  '²': 'squared',
  '³': 'cubed',
  '%': 'percent',
  '°': 'degrees',
  π: 'pi',
  α: 'alpha',
  β: 'beta',
  γ: 'gamma',
  δ: 'delta',
  Δ: 'delta',
  λ: 'lambda',
  μ: 'mu',
  σ: 'sigma',
  Σ: 'sigma',
  ω: 'omega',
}
/** A number with its sign left out, an ordinal, a word, or a sign. */
const PARTS = /(\d+(?:[.,]\d+)*)(st|nd|rd|th)?|[\p{L}\p{M}]+(?:['’][\p{L}\p{M}]+)*|[^\s\p{L}\p{M}\p{N}]/gu
const UNIT = /^(?:m[²³]?|km\/h|m\/s|°C?|%|€|[\p{L}]{1,3})(?![\p{L}\p{N}])/u
/** Letters that are said one by one. */
const SPELT = /^[B-DF-HJ-NP-TV-XZ]{2,5}$/

/** A number as it is said: years as two halves, decimals figure by figure. */
function numberSaid(text: string, ordinal: boolean): string {
  const plain = text.replaceAll(/,(?=\d{3}(?:\D|$))/g, '').replace(',', '.')
  const [whole = '0', ...decimals] = plain.split('.')
  // Beyond that nobody says a number.
  if (whole.length > 12 || decimals.length > 1) return [...text.replaceAll(/\D/g, '')].map((figure) => toCardinal(Number(figure))).join(' ')
  const value = Number(whole)
  if (ordinal) return toOrdinal(value)
  const [decimal] = decimals
  if (decimal !== undefined) {
    return `${toCardinal(value)} point ${[...decimal].map((figure) => toCardinal(Number(figure))).join(' ')}`
  }
  const isYear = whole.length === 4 && ((value >= 1100 && value < 2000) || (value >= 2010 && value < 2100)) && value % 100 > 0
  if (isYear) return `${toCardinal(Math.floor(value / 100))} ${toCardinal(value % 100)}`
  return toCardinal(value)
}

/** A word as it is said in English. */
function wordSaid(written: string): string {
  const out: string[] = []
  let at = 0
  while (at < written.length) {
    PARTS.lastIndex = at
    const found = PARTS.exec(written)
    if (found === null) break
    const [part, number, ordinal] = found
    at = found.index + part.length
    if (number !== undefined) {
      out.push(numberSaid(number, ordinal !== undefined))
      const unit = UNIT.exec(written.slice(at))?.[0]
      const said = unit === undefined ? undefined : UNITS[unit]
      if (unit !== undefined && said !== undefined) {
        out.push(said)
        at += unit.length
      }
    } else if (SPELT.test(part)) out.push([...part].join(' '))
    else out.push(SIGNS[part] ?? part)
  }
  return out.join(' ')
}

/** The sounds of a plain text: small letters, apostrophes alike, other marks gone. */
const soundsOf = (text: string): readonly string[] =>
  text
    .toLowerCase()
    .replaceAll('’', "'")
    .match(/[\p{L}\p{M}\p{N}]+(?:'[\p{L}\p{M}]+)*/gu) ?? []

/**
 * How a text is said. Numbers, units and signs are put into words in English; in other languages figures stand as they are.
 * @param language BCP 47 tag
 */
export function spokenForm(text: string, language: string): SpokenText {
  const words = text.split(/\s+/u).filter((word) => word !== '')
  const english = primaryOf(language) === 'en'
  const tokens = words.flatMap((written, word): readonly SpokenToken[] => {
    const before = words[word - 1]
    const isUnit = english && before !== undefined && /\d$/.test(before)
    const unit = isUnit ? UNITS[written.replace(/[.,;:!?)]+$/, '')] : undefined
    const said = english ? (unit ?? wordSaid(written)) : written
    return soundsOf(said).map((sound) => ({ sound, word }))
  })
  return { words, tokens }
}

import { createCanvas } from '@napi-rs/canvas'
import type { MatchSlide } from '@core/match'
import { slideSignature } from '@render/deck'

/** A slide of a deck that is made for comparing. */
export interface MadeSlide {
  /** What it is a slide of: a split has the same as its other half, a merged one those of both. Empty: it is new. */
  readonly from: readonly number[]
  readonly heading: string
  readonly points: readonly string[]
  /** Rectangles of a figure, in fractions of the slide, and their colours. */
  readonly figure: readonly { readonly x: number; readonly y: number; readonly w: number; readonly h: number; readonly colour: string }[]
}

/** How a deck looks. */
export interface MadeStyle {
  readonly ground: string
  readonly letters: string
  readonly heading: number
  readonly size: number
  readonly left: number
  readonly top: number
}

export const PLAIN_STYLE: MadeStyle = { ground: '#FFFFFF', letters: '#222222', heading: 40, size: 22, left: 50, top: 70 }
export const OTHER_STYLE: MadeStyle = { ground: '#12343B', letters: '#F4F1E4', heading: 32, size: 19, left: 90, top: 96 }

const WORDS = (
  'tide harbour knot swift gauge rope ebb flood neap spring moon buoy mooring bowline hitch reef anchor wind squall front ' +
  'pressure barometer cloud cirrus stratus fog visibility chart depth fathom channel beacon lock quay slipway dinghy oar ' +
  'fender cleat splice whipping strand lay hemp sheet halyard count dusk colony nest eaves roost moult fledge ring flight ' +
  'insect season brood parent chick survey volunteer route morning evening average record year decade graph trend'
).split(' ')
const LINKS = 'of the in with before after under over at and to from'.split(' ')
const COLOURS = ['#B23A2B', '#1F5A4C', '#C98A12', '#2F6FDE', '#7A5AA6', '#5D6A66']

/** Makes what decks are made of. @param random 0 to 1 */
export class DeckMaker {
  readonly #random: () => number

  constructor(random: () => number) {
    this.#random = random
  }

  int(below: number): number {
    return Math.floor(this.#random() * below)
  }

  #word(): string {
    return WORDS[this.int(WORDS.length)] ?? ''
  }

  words(count: number): string {
    const all = Array.from({ length: count }, (_, n) => (n % 3 === 2 ? (LINKS[this.int(LINKS.length)] ?? '') : this.#word()))
    const [first = '', ...rest] = all
    return [`${first.slice(0, 1).toUpperCase()}${first.slice(1)}`, ...rest].join(' ')
  }

  slide(from: readonly number[]): MadeSlide {
    const kind = this.#random()
    const figure = Array.from({ length: kind < 0.45 ? 3 + this.int(8) : 0 }, () => ({
      x: 0.1 + this.#random() * 0.7,
      y: 0.3 + this.#random() * 0.5,
      w: 0.04 + this.#random() * 0.25,
      h: 0.04 + this.#random() * 0.25,
      colour: COLOURS[this.int(COLOURS.length)] ?? '',
    }))
    // Some are a picture with a heading, a few a picture alone.
    const points = kind < 0.25 ? [] : Array.from({ length: 2 + this.int(4) }, () => this.words(4 + this.int(5)))
    return { from, heading: kind < 0.06 ? '' : this.words(2 + this.int(3)), points, figure }
  }

  deck(slides: number): readonly MadeSlide[] {
    return Array.from({ length: slides }, (_, n) => this.slide([n]))
  }

  /** Types some words wrong. */
  misspelt(text: string): string {
    return text
      .split(' ')
      .map((word) => {
        if (word.length < 4 || this.#random() < 0.75) return word
        const at = 1 + this.int(word.length - 2)
        return `${word.slice(0, at)}${word.slice(at + 1, at + 2)}${word.slice(at, at + 1)}${word.slice(at + 2)}`
      })
      .join(' ')
  }
}

/** A slide as it is compared, drawn in a style. */
export function drawnSlide({ heading, points, figure }: MadeSlide, style: MadeStyle): MatchSlide {
  const canvas = createCanvas(480, 270)
  const ctx = canvas.getContext('2d')
  ctx.fillStyle = style.ground
  ctx.fillRect(0, 0, 480, 270)
  for (const { x, y, w, h, colour } of figure) {
    ctx.fillStyle = colour
    ctx.fillRect(x * 480, y * 270, w * 480, h * 270)
  }
  ctx.fillStyle = style.letters
  ctx.font = `bold ${String(style.heading / 2)}px sans-serif`
  ctx.fillText(heading, style.left / 2, style.top / 2)
  ctx.font = `${String(style.size / 2)}px sans-serif`
  for (const [n, point] of points.entries()) ctx.fillText(point, style.left / 2 + 8, style.top / 2 + 24 + n * (style.size * 0.9))
  return {
    words: [heading, ...points].flatMap((text) => text.split(' ')).filter((word) => word !== ''),
    title: heading,
    picture: slideSignature(canvas),
  }
}

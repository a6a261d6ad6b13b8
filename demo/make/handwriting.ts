import type { InkColour, InkPoint, InkWidth } from '@core/model'

/** A stroke of the demo take before it has a slide: corners in pixels of a 1280 x 720 slide, drawn at an even pace. */
export interface PlannedStroke {
  /** ms after the slide appeared */
  readonly at: number
  /** ms it takes */
  readonly takes: number
  readonly colour: InkColour
  readonly width: InkWidth
  readonly corners: readonly (readonly [number, number])[]
}

/** Time between two points of a hand's movement, in ms, as a mouse or pen reports it. */
const EVERY = 16

/** Digits and signs as a hand would write them, in a box one wide and two high. */
const GLYPHS: Readonly<Record<string, readonly (readonly (readonly [number, number])[])[]>> = {
  0: [
    [
      [0.5, 0],
      [0.1, 0.5],
      [0.1, 1.5],
      [0.5, 2],
      [0.9, 1.5],
      [0.9, 0.5],
      [0.5, 0],
    ],
  ],
  2: [
    [
      [0.1, 0.4],
      [0.5, 0],
      [0.9, 0.4],
      [0.8, 0.9],
      [0.1, 2],
      [0.95, 1.95],
    ],
  ],
  4: [
    [
      [0.7, 0],
      [0.1, 1.3],
      [1, 1.3],
    ],
    [
      [0.75, 0.7],
      [0.7, 2],
    ],
  ],
  8: [
    [
      [0.8, 0.3],
      [0.5, 0],
      [0.2, 0.35],
      [0.8, 1.2],
      [0.85, 1.7],
      [0.5, 2],
      [0.15, 1.65],
      [0.3, 1.1],
      [0.8, 0.3],
    ],
  ],
  '.': [
    [
      [0.4, 1.9],
      [0.5, 2],
      [0.42, 1.96],
    ],
  ],
  m: [
    [
      [0, 1],
      [0.05, 2],
    ],
    [
      [0.05, 1.2],
      [0.3, 1],
      [0.45, 1.2],
      [0.45, 2],
    ],
    [
      [0.45, 1.2],
      [0.7, 1],
      [0.9, 1.2],
      [0.92, 2],
    ],
  ],
}

/** Writes text. @param size width of a sign in px */
export function write(text: string, x: number, y: number, size: number, at: number, colour: InkColour): readonly PlannedStroke[] {
  const strokes: PlannedStroke[] = []
  let time = at
  let left = x
  for (const sign of text) {
    for (const line of GLYPHS[sign] ?? []) {
      strokes.push({
        at: time,
        takes: 60 * line.length + 60,
        colour,
        width: 'fine',
        corners: line.map(([u, v]) => [left + u * size, y + v * size]),
      })
      time += 60 * line.length + 150
    }
    left += sign === '.' ? size * 0.7 : size * 1.35
  }
  return strokes
}

/** Points of a stroke as a hand draws them: along its corners, with a little unsteadiness. */
export function handPoints(stroke: PlannedStroke): readonly InkPoint[] {
  const { corners } = stroke
  const lengths = corners.slice(1).map(([x, y], n) => Math.hypot(x - (corners[n]?.[0] ?? x), y - (corners[n]?.[1] ?? y)))
  const all = lengths.reduce((sum, length) => sum + length, 0)
  const count = Math.max(2, Math.round(stroke.takes / EVERY))
  return Array.from({ length: count }, (_, n) => {
    // Slow at both ends, quicker in the middle.
    const share = (1 - Math.cos((Math.PI * n) / (count - 1))) / 2
    let rest = share * all
    let leg = 0
    while (leg < lengths.length - 1 && rest > (lengths[leg] ?? 0)) {
      rest -= lengths[leg] ?? 0
      leg += 1
    }
    const along = Math.min(1, rest / Math.max(1e-6, lengths[leg] ?? 1))
    const [ax, ay] = corners[leg] ?? [0, 0]
    const [bx, by] = corners[leg + 1] ?? [ax, ay]
    const shake = (phase: number): number => Math.sin(n * 0.9 + phase) * 0.8 + Math.sin(n * 0.37 + phase * 2) * 0.6
    return {
      dt: n * EVERY,
      x: Number(((ax + (bx - ax) * along + shake(0)) / 1280).toFixed(5)),
      y: Number(((ay + (by - ay) * along + shake(1.7)) / 720).toFixed(5)),
      p: 0.5,
    }
  })
}

/** A ring round something. */
export const ring = (cx: number, cy: number, rx: number, ry: number): readonly (readonly [number, number])[] =>
  Array.from({ length: 33 }, (_, n) => {
    const turn = (n / 32) * Math.PI * 2.08 - 1.9
    return [cx + Math.cos(turn) * rx * (1 + n * 0.001), cy + Math.sin(turn) * ry] as const
  })

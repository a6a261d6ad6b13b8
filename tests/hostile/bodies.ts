import { randomFrom } from './mutate'
import type { Door, HostileInput } from './input'

/** What a page sends, with `SLIDE` where a slide's id stands. */
const BODIES: readonly (readonly [Door, unknown])[] = [
  ['edit', { revision: 1, edit: { kind: 'set', slides: ['SLIDE'], fields: { notes: 'over, under', planned: 42_000 } } }],
  [
    'edit',
    {
      revision: 1,
      edit: {
        kind: 'all',
        edits: [
          { kind: 'move', slides: ['SLIDE'], before: null },
          { kind: 'remove', slides: ['SLIDE'] },
        ],
      },
    },
  ],
  [
    'programme',
    {
      revision: 1,
      author: '6f1c2f0e-6c1b-4b7e-9b5e-0b9c1f2d3a4b',
      edit: { kind: 'cut', from: 100, to: 900, name: '6f1c2f0e-6c1b-4b7e-9b5e-0b9c1f2d3a4c' },
    },
  ],
  [
    'programme',
    {
      revision: 1,
      author: '6f1c2f0e-6c1b-4b7e-9b5e-0b9c1f2d3a4b',
      edit: { kind: 'insert', slide: 'SLIDE', version: 1, length: 1000, before: null, name: '6f1c2f0e-6c1b-4b7e-9b5e-0b9c1f2d3a4d' },
    },
  ],
  [
    'cues',
    {
      first: 0,
      cues: [
        { kind: 'show', at: 100, slide: 'SLIDE', step: 0 },
        {
          kind: 'ink',
          at: 200,
          stroke: {
            id: '6f1c2f0e-6c1b-4b7e-9b5e-0b9c1f2d3a4e',
            slide: 'SLIDE',
            colour: 'moss',
            width: 'fine',
            pressure: false,
            points: [{ dt: 0, x: 0.1, y: 0.1, p: 0.5 }],
          },
        },
      ],
    },
  ],
  ['recipe', { quality: 'good', name: 'file', limit: { kind: 'none' }, lines: 480, rate: 30, format: 'mp4', part: { kind: 'all' } }],
]

/** Values that do not belong where anything is expected. */
const STRANGE: readonly unknown[] = [
  null,
  true,
  -1,
  1e308,
  1e-320,
  2 ** 53,
  0.1,
  '',
  '\u0000',
  '\ud800',
  'x'.repeat(100_000),
  [],
  {},
  [[]],
  { __proto__: { admin: true } },
  { constructor: { prototype: {} } },
  '../../etc/passwd',
  '6f1c2f0e-6c1b-4b7e-9b5e-0b9c1f2d3a4f',
  Array.from({ length: 20_000 }, () => 0),
  "'; drop table talk; --",
  { $ne: null },
  '<script>',
  'NaN',
  Array.from({ length: 500 }).reduce<unknown>((inner) => [inner], 0),
  Array.from({ length: 500 }).reduce<unknown>((inner) => ({ kind: 'all', edits: [inner] }), {}),
]

/** Every place in a value. */
function placesIn(value: unknown, path: readonly (string | number)[] = []): readonly (readonly (string | number)[])[] {
  if (value === null || typeof value !== 'object') return [path]
  return [path, ...Object.entries(value).flatMap(([key, inner]) => placesIn(inner, [...path, key]))]
}

/** A value with another in one place of it. */
function withAt(value: unknown, [key, ...rest]: readonly (string | number)[], other: unknown): unknown {
  if (key === undefined) return other
  if (Array.isArray(value)) return value.map((inner: unknown, n) => (String(n) === String(key) ? withAt(inner, rest, other) : inner))
  return { ...(value as object), [key]: withAt((value as Record<string, unknown>)[key], rest, other) }
}

/** A body that a page could send but for one place in it. */
export function strangeBody(seed: number): HostileInput {
  const random = randomFrom(seed)
  const [door, body] = BODIES[seed % BODIES.length] ?? ['edit', {}]
  const places = placesIn(body)
  const place = places[Math.floor(random() * places.length)] ?? []
  const other = STRANGE[Math.floor(random() * STRANGE.length)]
  return {
    name: `${place.join('.') || 'all of it'} = ${JSON.stringify(other ?? null).slice(0, 40)}`,
    door,
    file: 'body.json',
    bytes: Buffer.from(JSON.stringify(withAt(body, place, other) ?? null)),
  }
}

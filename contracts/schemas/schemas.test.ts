import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import * as schemas from '.'

/** Longest that looking at one body may take, in ms: a busy machine is ten times as slow as ours. */
const PATIENCE = 400
const BODIES = 300

const named = Object.entries(schemas).filter(
  (entry): entry is [string, Extract<(typeof entry)[1], { validate: unknown }>] => typeof entry[1] === 'object' && 'validate' in entry[1],
)

/** What somebody might send who means harm: anything at all, names that mean something to the language, and much of everything. */
const hostile = fc.oneof(
  fc.anything({ maxDepth: 5, withNullPrototype: false }),
  fc.dictionary(
    fc.constantFrom(
      '__proto__',
      'constructor',
      'toString',
      'kind',
      'edit',
      'edits',
      'slides',
      'parts',
      'revision',
      'author',
      'points',
      'cues',
      'first',
    ),
    fc.anything({ maxDepth: 3 }),
  ),
  fc.record({
    kind: fc.constantFrom('all', 'cut', 'move', 'set', 'ink', 'draw', 'tempo'),
    revision: fc.anything(),
    author: fc.string(),
    edits: fc.array(fc.record({ kind: fc.constantFrom('all', 'cut'), edits: fc.array(fc.anything(), { maxLength: 4 }) })),
    visits: fc.array(fc.string(), { maxLength: 200 }),
    slides: fc.array(fc.uuid(), { maxLength: 200 }),
  }),
)

/** An edit of edits of edits. */
function nested(depth: number, inner: unknown): unknown {
  let edit = inner
  for (let n = 0; n < depth; n += 1)
    edit = { kind: 'all', edits: [edit, edit === inner ? inner : { kind: 'cut', parts: [{ from: 0, to: 1 }] }] }
  return edit
}

/**
 * How long a look takes, in ms: the least of up to five tries. What is slow by its own work is slow each time; what waited
 * for a processor that others had, or for memory to be swept, is not.
 */
function timed(look: () => unknown): number {
  let least = Infinity
  for (let n = 0; n < 5 && least >= PATIENCE / 4; n += 1) {
    const began = performance.now()
    look()
    least = Math.min(least, performance.now() - began)
  }
  return least
}

describe('what is sent here', () => {
  it.each(named)(
    'is looked at quickly, whatever it is: %s',
    (_, schema) => {
      for (const body of fc.sample(hostile, { numRuns: BODIES, seed: 5 })) expect(timed(() => schema.validate(body))).toBeLessThan(PATIENCE)
      for (const body of [
        'x'.repeat(1_000_000),
        Array.from({ length: 100_000 }, () => ({})),
        Object.fromEntries(Array.from({ length: 20_000 }, (__, n) => [`k${String(n)}`, n])),
      ]) {
        expect(timed(() => schema.validate(body))).toBeLessThan(PATIENCE * 5)
      }
    },
    60_000,
  )

  it('is refused at once when it is nested deeper than anything that a page sends', () => {
    const [cut, move] = [
      { kind: 'cut', parts: [{ from: 0, to: 100 }] },
      { kind: 'remove', slides: ['5f0c9a5e-0f0a-4c46-9b59-0a43ad40d2d1'] },
    ]
    expect(schemas.programmeEdit.validate(nested(1, cut)).error).toBeUndefined()
    expect(schemas.deckEdit.validate({ kind: 'all', edits: [{ kind: 'all', edits: [move] }] }).error).toBeUndefined()
    for (const depth of [5, 30, 400]) {
      expect(
        timed(() => {
          expect(schemas.programmeEdit.validate(nested(depth, cut)).error).toBeDefined()
        }),
      ).toBeLessThan(PATIENCE)
      expect(
        timed(() => {
          expect(schemas.deckEdit.validate(nested(depth, move)).error).toBeDefined()
        }),
      ).toBeLessThan(PATIENCE)
    }
  })
})

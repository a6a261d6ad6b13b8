import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { unreachable } from '@core/model'
import { joiOf } from '../schemas/joi-of'
import { COMPOSITION, DECK_EDIT, FRAMING, PROGRAMME_EDIT, STROKE } from '.'
import type { AnyShape, Fields } from '.'

const LONGEST_LIST = 3

const textOf = ({ least, most, pattern }: Extract<AnyShape, { kind: 'text' }>): fc.Arbitrary<string> =>
  pattern === null
    ? fc.string({ minLength: least, maxLength: Math.min(most, least + 30) })
    : fc.stringMatching(pattern).filter(({ length }) => length >= least && length <= most)

const fieldsOf = (fields: Fields): fc.Arbitrary<Record<string, unknown>> =>
  fc.record(Object.fromEntries(Object.entries(fields).map(([name, { shape }]) => [name, valueOf(shape)])))

/** Any value of a shape, with every field that it can have. */
function valueOf(shape: AnyShape): fc.Arbitrary<unknown> {
  switch (shape.kind) {
    case 'number':
      return shape.whole
        ? fc.integer({ min: shape.least, max: Math.min(shape.most, 2 ** 31 - 1) })
        : fc.double({ min: shape.least, max: shape.most, noNaN: true }).map((value) => (Object.is(value, -0) ? 0 : value))
    case 'text':
      return textOf(shape)
    case 'uuid':
      return fc.uuid({ version: 4 })
    case 'flag':
      return fc.boolean()
    case 'word':
      return fc.constantFrom(...shape.words)
    case 'nullable':
      return fc.option(valueOf(shape.shape))
    case 'list':
      return fc.array(valueOf(shape.of), { minLength: shape.least, maxLength: Math.max(shape.least, LONGEST_LIST) })
    case 'record':
      return fieldsOf(shape.fields)
    case 'variants':
      return fc.oneof(...Object.entries(shape.by).map(([kind, fields]) => fieldsOf(fields).map((value) => ({ kind, ...value }))))
    case 'checked':
      return valueOf(shape.shape).filter((value) => shape.check(value as never) === null)
    default:
      return unreachable(shape)
  }
}

interface Near {
  readonly why: string
  readonly value: unknown
}

function nearFields(fields: Fields, value: Readonly<Record<string, unknown>>, extra: Readonly<Record<string, unknown>>): readonly Near[] {
  const own = Object.entries(fields).flatMap(([name, { shape, optional }]) => {
    const { [name]: inner, ...rest } = value
    return [
      ...nearMisses(shape, inner).map(({ why, value: other }) => ({ why: `${name}: ${why}`, value: { ...value, [name]: other } })),
      ...(optional ? [] : [{ why: `without ${name}`, value: { ...extra, ...rest } }]),
    ]
  })
  return [...own, { why: 'one field more', value: { ...value, besides: 1 } }]
}

/** Values that differ from a good one in one place, and are wrong there. */
function nearMisses(shape: AnyShape, value: unknown): readonly Near[] {
  switch (shape.kind) {
    case 'number':
      return [
        { why: 'too little', value: shape.least - 1 },
        { why: 'too much', value: shape.most + 1 },
        { why: 'no number', value: {} },
        ...(shape.whole ? [{ why: 'not whole', value: shape.least + 0.5 }] : []),
      ]
    case 'text':
      return [
        { why: 'too long', value: 'a'.repeat(shape.most + 1) },
        { why: 'no text', value: 5 },
        ...(shape.least > 0 ? [{ why: 'empty', value: '' }] : []),
        ...(shape.pattern === null ? [] : [{ why: 'other letters', value: '~'.repeat(shape.least) }]),
      ]
    case 'uuid':
      return [
        { why: 'no id', value: 'five' },
        { why: 'null', value: null },
      ]
    case 'flag':
      return [{ why: 'no flag', value: 'perhaps' }]
    case 'word':
      return [{ why: 'another word', value: 'besides' }]
    case 'nullable':
      return nearMisses(shape.shape, value).filter((near) => near.value !== null)
    case 'list': {
      const items = value as readonly unknown[]
      return [
        { why: 'no list', value: 'all' },
        ...(shape.least > 0 ? [{ why: 'empty', value: [] }] : []),
        ...items
          .slice(0, 1)
          .flatMap((first) =>
            nearMisses(shape.of, first).map((near) => ({ why: `first: ${near.why}`, value: [near.value, ...items.slice(1)] })),
          ),
      ]
    }
    case 'record':
      return value === null ? [] : nearFields(shape.fields, value as Record<string, unknown>, {})
    case 'variants': {
      if (value === null) return []
      const { kind, ...rest } = value as { readonly kind: string } & Record<string, unknown>
      return [
        { why: 'another kind', value: { ...rest, kind: 'besides' } },
        { why: 'no kind', value: rest },
        ...nearFields(shape.by[kind] ?? {}, { kind, ...rest }, { kind }),
      ]
    }
    case 'checked':
      return nearMisses(shape.shape, value)
    default:
      return unreachable(shape)
  }
}

const variantsOf = (name: string, shape: AnyShape): readonly (readonly [string, AnyShape])[] =>
  shape.kind === 'variants'
    ? Object.entries(shape.by).map(([kind, fields]) => [`${name}, ${kind}`, { kind: 'variants', by: { [kind]: fields } }] as const)
    : [[name, shape]]

describe('what travels', () => {
  it.each([
    ...variantsOf('an edit of the programme', PROGRAMME_EDIT),
    ...variantsOf('an edit of the deck', DECK_EDIT),
    ['a framing', FRAMING] as const,
    ['a stroke', STROKE] as const,
    ['a composition', COMPOSITION] as const,
  ])('is taken as it is, and refused when one thing in it is wrong: %s', (_, shape) => {
    const schema = joiOf(shape)
    fc.assert(
      fc.property(valueOf(shape), (value) => {
        expect(schema.validate(value, { convert: false })).toEqual({ value })
        for (const { why, value: wrong } of nearMisses(shape, value)) {
          expect([why, schema.validate(wrong).error !== undefined]).toEqual([why, true])
        }
      }),
      { numRuns: 12 },
    )
  })

  it('is refused with the reason that its shape gives, where its parts cannot say it', () => {
    const narrow = joiOf(DECK_EDIT).validate({ kind: 'shape', shape: { width: 100, height: 2000 } })
    expect(narrow.error?.message).toBe('Slides cannot be that long or that narrow.')
  })
})

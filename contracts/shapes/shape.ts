/*
 * What a value that travels looks like, as data: said once, and held to its type by the compiler. Schemas of the server are made from it,
 * and so are the values that tests send.
 */

/** A field of a record. */
export interface Field {
  readonly shape: AnyShape
  readonly optional: boolean
}
export type Fields = Readonly<Record<string, Field>>

/** A shape of any type. */
export type AnyShape =
  | { readonly kind: 'number'; readonly least: number; readonly most: number; readonly whole: boolean }
  /** Length in UTF-16 units. */
  | { readonly kind: 'text'; readonly least: number; readonly most: number; readonly pattern: RegExp | null }
  /** Of version 4 (RFC 9562). */
  | { readonly kind: 'uuid' }
  | { readonly kind: 'flag' }
  | { readonly kind: 'word'; readonly words: readonly string[] }
  | { readonly kind: 'nullable'; readonly shape: AnyShape }
  | { readonly kind: 'list'; readonly of: AnyShape; readonly least: number; readonly most: number }
  /** @param least fields that are there, counting those that may be left out */
  | { readonly kind: 'record'; readonly fields: Fields; readonly least: number }
  /** Records that are told apart by their `kind`. */
  | { readonly kind: 'variants'; readonly by: Readonly<Record<string, Fields>> }
  /** A shape of which not everything can be said by its parts. @param check says what is wrong; null: nothing */
  | { readonly kind: 'checked'; readonly shape: AnyShape; readonly check: (value: never) => string | null }

/** A shape of that type. A shape of less than it is one too. */
export type Shape<Value> = AnyShape & { readonly of_?: Value }

/** A field that may be left out. */
export interface Optional<Value> {
  readonly optional: Shape<Value>
}

type FieldOf<Value> = undefined extends Value ? Optional<Exclude<Value, undefined>> : Shape<Value>
/** A shape for each field of a record: no field can be forgotten. */
export type FieldsOf<Value> = { readonly [Name in keyof Value]-?: FieldOf<Value[Name]> }

type Kinded = { readonly kind: string }
type VariantsOf<Value extends Kinded> = {
  readonly [Kind in Value['kind']]: FieldsOf<Omit<Extract<Value, { readonly kind: Kind }>, 'kind'>>
}

const fieldsOf = (given: Readonly<Record<string, AnyShape | { readonly optional: AnyShape }>>): Fields =>
  Object.fromEntries(
    Object.entries(given).map(([name, field]) => [
      name,
      'optional' in field ? { shape: field.optional, optional: true } : { shape: field, optional: false },
    ]),
  )

export const whole = (least: number, most: number): Shape<number> => ({ kind: 'number', least, most, whole: true })
export const real = (least: number, most: number): Shape<number> => ({ kind: 'number', least, most, whole: false })
/** @param least, most letters, in UTF-16 units */
export const text = <Value extends string = string>(least: number, most: number, pattern: RegExp | null = null): Shape<Value> => ({
  kind: 'text',
  least,
  most,
  pattern,
})
export const uuidOf = <Value extends string>(): Shape<Value> => ({ kind: 'uuid' })
export const flag: Shape<boolean> = { kind: 'flag' }
export const word = <Word extends string>(words: readonly Word[]): Shape<Word> => ({ kind: 'word', words })
export const nullable = <Value>(shape: Shape<Value>): Shape<Value | null> => ({ kind: 'nullable', shape })
export const list = <Value>(of: Shape<Value>, least: number, most: number): Shape<readonly Value[]> => ({ kind: 'list', of, least, most })
export const optional = <Value>(shape: Shape<Value>): Optional<Value> => ({ optional: shape })
/** @param least fields that are there, counting those that may be left out */
export const record = <Value extends object>(fields: FieldsOf<Value>, least = 0): Shape<Value> => ({
  kind: 'record',
  fields: fieldsOf(fields as Readonly<Record<string, AnyShape | { readonly optional: AnyShape }>>),
  least,
})
export const variants = <Value extends Kinded>(by: VariantsOf<Value>): Shape<Value> => ({
  kind: 'variants',
  by: Object.fromEntries(
    Object.entries<Readonly<Record<string, AnyShape | { readonly optional: AnyShape }>>>(by).map(([kind, fields]) => [
      kind,
      fieldsOf(fields),
    ]),
  ),
})
export const checked = <Value>(shape: Shape<Value>, check: (value: Value) => string | null): Shape<Value> => ({
  kind: 'checked',
  shape,
  check,
})

/** A small picture of a slide for comparing: so many squares across and down, red, green and blue of each, 0 to 255. */
export const SIGNATURE = { across: 24, down: 18 } as const

const [COUNT, FULL] = [SIGNATURE.across * SIGNATURE.down, 255]

/** How much a square stands out from what is usual on its picture, 0 to 1: styles differ in their grounds, not in what stands on them. */
function marks(picture: readonly number[]): Float64Array {
  const channels = [0, 1, 2].map((channel) => {
    const values = Array.from({ length: COUNT }, (_, n) => picture[n * 3 + channel] ?? 0).sort((a, b) => a - b)
    return values[Math.floor(COUNT / 2)] ?? 0
  })
  return Float64Array.from({ length: COUNT }, (_, n) =>
    Math.min(1, Math.max(...channels.map((usual, channel) => Math.abs((picture[n * 3 + channel] ?? 0) - usual))) / (FULL / 3)),
  )
}

/** Values about their mean, of length 1 as a vector; null: they are all the same. */
function aboutMean(values: Float64Array): Float64Array | null {
  const mean = values.reduce((sum, value) => sum + value, 0) / values.length
  const length = Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0))
  return length < 1e-3 ? null : values.map((value) => (value - mean) / length)
}

/** How alike the ups and downs of two pictures are, 0 to 1: the coefficient of correlation, nothing where it is below 0. */
function correlation(a: Float64Array | null, b: Float64Array | null): number {
  if (a === null || b === null) return a === b ? 1 : 0
  let both = 0
  for (let n = 0; n < COUNT; n += 1) both += (a[n] ?? 0) * (b[n] ?? 0)
  return Math.max(0, both)
}

/** So far apart on the whole, pictures are not alike at all. */
const FAR = 1 / 6
const MOST_APART = FAR * COUNT * 3 * FULL

/** How alike the colours of two pictures are, 0 to 1. */
function coloursAlike(a: readonly number[], b: readonly number[]): number {
  let sum = 0
  for (let n = 0; n < COUNT * 3 && sum < MOST_APART; n += 1) sum += Math.abs((a[n] ?? 0) - (b[n] ?? 0))
  return Math.max(0, 1 - sum / MOST_APART)
}

/** A small picture made ready for comparing it with many. */
export interface PreparedPicture {
  readonly colours: readonly number[]
  readonly marks: Float64Array | null
}

/** @param picture see `SIGNATURE`; null: it is not known */
export const preparedPicture = (picture: readonly number[] | null): PreparedPicture | null =>
  picture === null ? null : { colours: picture, marks: aboutMean(marks(picture)) }

/**
 * How alike two small pictures are: as pictures, or in what stands on them where.
 * @returns 0 to 1; null: one of them is not known
 */
export function picturesAlike(a: PreparedPicture | null, b: PreparedPicture | null): number | null {
  if (a === null || b === null) return null
  return Math.max(coloursAlike(a.colours, b.colours), correlation(a.marks, b.marks))
}

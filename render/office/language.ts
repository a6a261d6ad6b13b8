/** The language of most letters; empty when nothing says so. */
export const mostly = (letters: ReadonlyMap<string, number>): string =>
  [...letters].reduce((most, one) => (one[1] > most[1] ? one : most), ['', 0] as const)[0]

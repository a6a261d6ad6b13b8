/*
 * ffmpeg's filter graphs (ffmpeg-filters, "Filtergraph syntax") as values: chains of filters between named streams.
 */

/** What a filter is told: in the order that it expects, or by name. */
export type FilterValue = string | number | boolean
export type FilterOptions = Readonly<Record<string, FilterValue>>

export interface Filter {
  readonly name: string
  readonly values: readonly FilterValue[]
  readonly options: FilterOptions
}

/** Filters that one or more streams go through, one after the other. */
export interface Chain {
  /** Streams of inputs, such as `0:v`, or of other chains. */
  readonly from: readonly string[]
  readonly filters: readonly Filter[]
  /** What its streams are called; each is read once. */
  readonly to: readonly string[]
}

/** @param values those that are not named @param options those that are */
export const filter = (name: string, values: readonly FilterValue[] = [], options: FilterOptions = {}): Filter => ({
  name,
  values,
  options,
})

export const chain = (from: readonly string[], filters: readonly Filter[], to: readonly string[]): Chain => ({ from, filters, to })

/** A value as it stands in a graph: what has a meaning there is quoted. @throws Error when it cannot be */
function textOf(value: FilterValue): string {
  const text = String(value)
  if (text.includes("'")) throw new Error(`a filter cannot be told: ${text}`)
  return /[,;[\]:=\\\s]/.test(text) ? `'${text}'` : text
}

function filterText({ name, values, options }: Filter): string {
  const told = [...values.map(textOf), ...Object.entries(options).map(([key, value]) => `${key}=${textOf(value)}`)]
  return told.length === 0 ? name : `${name}=${told.join(':')}`
}

/** Filters one after the other, for a graph of one stream (`-vf`, `-af`). */
export const filtersText = (filters: readonly Filter[]): string => filters.map(filterText).join(',')

const named = (streams: readonly string[]): string => streams.map((stream) => `[${stream}]`).join('')

/** A graph, for `-filter_complex`. A chain without filters passes its stream on. */
export const graphText = (chains: readonly Chain[]): string =>
  chains.map(({ from, filters, to }) => `${named(from)}${filters.length === 0 ? 'null' : filtersText(filters)}${named(to)}`).join(';')

/** Only the rows and columns of a box. */
export const crop = (width: number, height: number, x: number, y: number): Filter => filter('crop', [width, height, x, y])

/** Frames at a constant rate, from the beginning of the time on. */
export const constantRate = (fps: number | string): Filter => filter('fps', [fps], { start_time: 0 })

export const format = (pixels: string): Filter => filter('format', [pixels])

/** As many copies of a stream. */
export const split = (count: number): Filter => filter('split', [count])

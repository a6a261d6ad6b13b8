/** A media reference of an edit list, and what stands in its tracks. */
export interface OtioReference {
  readonly OTIO_SCHEMA: string
  readonly target_url: string
  readonly available_range: OtioRange
}
interface OtioTime {
  readonly OTIO_SCHEMA: string
  readonly rate: number
  readonly value: number
}
export interface OtioRange {
  readonly OTIO_SCHEMA: string
  readonly start_time: OtioTime
  readonly duration: OtioTime
}
export interface OtioItem {
  readonly OTIO_SCHEMA: string
  readonly source_range: OtioRange
  readonly effects: readonly { readonly OTIO_SCHEMA: string; readonly time_scalar: number }[]
  readonly active_media_reference_key?: string
  readonly media_references?: Readonly<Record<string, OtioReference>>
}
export interface OtioTimeline {
  readonly OTIO_SCHEMA: string
  readonly tracks: {
    readonly OTIO_SCHEMA: string
    readonly markers: readonly { readonly OTIO_SCHEMA: string; readonly name: string; readonly marked_range: OtioRange }[]
    readonly children: readonly { readonly OTIO_SCHEMA: string; readonly kind: string; readonly children: readonly OtioItem[] }[]
  }
}

/** What a part of an edit plays; undefined: nothing. */
export const mediaOf = (item: OtioItem): OtioReference | undefined => item.media_references?.[item.active_media_reference_key ?? '']

/** Fields that every object of a schema has (OpenTimelineIO, serialized schema), by its name. */
const FIELDS: Readonly<Record<string, readonly string[]>> = {
  'Timeline.1': ['metadata', 'name', 'global_start_time', 'tracks'],
  'Stack.1': ['metadata', 'name', 'source_range', 'effects', 'markers', 'enabled', 'children'],
  'Track.1': ['metadata', 'name', 'source_range', 'effects', 'markers', 'enabled', 'children', 'kind'],
  'Clip.2': ['metadata', 'name', 'source_range', 'effects', 'markers', 'enabled', 'media_references', 'active_media_reference_key'],
  'Gap.1': ['metadata', 'name', 'source_range', 'effects', 'markers', 'enabled'],
  'ExternalReference.1': ['metadata', 'name', 'available_range', 'available_image_bounds', 'target_url'],
  'LinearTimeWarp.1': ['metadata', 'name', 'effect_name', 'time_scalar'],
  'FreezeFrame.1': ['metadata', 'name', 'effect_name', 'time_scalar'],
  'Marker.2': ['metadata', 'name', 'color', 'marked_range', 'comment'],
  'TimeRange.1': ['start_time', 'duration'],
  'RationalTime.1': ['rate', 'value'],
}
/** Objects that carry no schema: they hold others by name. */
const PLAIN = new Set(['metadata', 'media_references'])

function faultsIn(value: unknown, path: string): readonly string[] {
  if (Array.isArray(value)) return value.flatMap((one: unknown, n) => faultsIn(one, `${path}[${String(n)}]`))
  if (typeof value !== 'object' || value === null) return []
  const fields = Object.entries(value)
  const inner = fields.flatMap(([name, one]) => faultsIn(one, `${path}.${name}`))
  const last = path.split('.').at(-1) ?? ''
  if (PLAIN.has(last)) return inner
  const schema = (value as { OTIO_SCHEMA?: unknown }).OTIO_SCHEMA
  const wanted = typeof schema === 'string' ? FIELDS[schema] : undefined
  if (wanted === undefined) return [`${path} is of no schema that is known: ${String(schema)}`, ...inner]
  const names = new Set(fields.map(([name]) => name))
  return [
    ...wanted.filter((name) => !names.has(name)).map((name) => `${path} lacks ${name}`),
    ...[...names].filter((name) => name !== 'OTIO_SCHEMA' && !wanted.includes(name)).map((name) => `${path} has ${name}`),
    ...inner,
  ]
}

/** What of an edit list is not as its standard says, and parts that reach beyond their file. */
export function faultsOfTimeline(timeline: OtioTimeline): readonly string[] {
  const beyond = timeline.tracks.children.flatMap(({ children }) =>
    children.flatMap((item) => {
      const media = mediaOf(item)
      if (media === undefined) return []
      const { start_time: start, duration } = item.source_range
      const scalar = item.effects[0]?.time_scalar ?? 1
      const all = media.available_range.duration
      return start.value + duration.value * scalar > all.value + 1.5 ? [`${media.target_url} is shorter than a part of it`] : []
    }),
  )
  return [...faultsIn(timeline, 'timeline'), ...beyond]
}

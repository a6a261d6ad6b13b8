import type { Ms, Ratio } from '@core/model'

/*
 * An edit list as OpenTimelineIO writes it (serialised schema of 0.17: Timeline.1, Stack.1, Track.1, Clip.2, Gap.1, ExternalReference.1,
 * MissingReference.1, LinearTimeWarp.1, FreezeFrame.1, Marker.2, RationalTime.1, TimeRange.1).
 */

/** A file of which parts are in an edit. */
export interface EditMedia {
  /** Where it lies, relative to the edit list. */
  readonly file: string
  readonly length: Ms
}

/** A part of an edit list: so long something of a file, or nothing. */
export type EditPart =
  | {
      readonly kind: 'media'
      readonly media: EditMedia
      readonly name: string
      readonly from: Ms
      /** How long it lasts in the edit. */
      readonly length: Ms
      /** How much faster than it was recorded it is played. */
      readonly playbackRate: Ratio
    }
  /** One picture of a file stands still. */
  | { readonly kind: 'held'; readonly media: EditMedia; readonly name: string; readonly at: Ms; readonly length: Ms }
  | { readonly kind: 'gap'; readonly length: Ms }

export interface EditTrack {
  readonly name: string
  readonly kind: 'Video' | 'Audio'
  readonly parts: readonly EditPart[]
}

/** A place in an edit with a name. */
export interface EditMark {
  readonly name: string
  readonly at: Ms
  readonly length: Ms
}

export interface EditList {
  readonly name: string
  /** Pictures a second of the edit. */
  readonly fps: number
  /** The lowest first. */
  readonly tracks: readonly EditTrack[]
  readonly marks: readonly EditMark[]
}

/** Samples a second, by which places in sound are told. */
const SAMPLES = 48_000

const time = (value: number, rate: number) => ({ OTIO_SCHEMA: 'RationalTime.1', rate, value })
const range = (start: number, duration: number, rate: number) => ({
  OTIO_SCHEMA: 'TimeRange.1',
  duration: time(duration, rate),
  start_time: time(start, rate),
})

const unitsAt = (at: Ms, rate: number): number => Math.round((at * rate) / 1000)

/** Addresses are relative, as those of web pages are (RFC 3986, 4.2). */
const addressOf = (file: string): string => file.split('/').map(encodeURIComponent).join('/')

const external = ({ file, length }: EditMedia, rate: number) => ({
  OTIO_SCHEMA: 'ExternalReference.1',
  available_image_bounds: null,
  available_range: range(0, unitsAt(length, rate), rate),
  metadata: {},
  name: file,
  target_url: addressOf(file),
})

const warp = (schema: 'LinearTimeWarp.1' | 'FreezeFrame.1', scalar: number) => ({
  OTIO_SCHEMA: schema,
  effect_name: schema.slice(0, -2),
  metadata: {},
  name: '',
  time_scalar: scalar,
})

const item = (name: string, sourceRange: object, effects: readonly object[]) => ({
  effects,
  enabled: true,
  markers: [],
  metadata: {},
  name,
  source_range: sourceRange,
})

/** A part as an item of its track. @param units of the edit that it takes up */
function itemOf(part: EditPart, units: number, rate: number): object {
  if (part.kind === 'gap') return { OTIO_SCHEMA: 'Gap.1', ...item('', range(0, units, rate), []) }
  const start = unitsAt(part.kind === 'media' ? part.from : part.at, rate)
  const effects = part.kind === 'held' ? [warp('FreezeFrame.1', 0)] : warpsOf(part.playbackRate)
  return {
    OTIO_SCHEMA: 'Clip.2',
    active_media_reference_key: 'DEFAULT_MEDIA',
    media_references: { DEFAULT_MEDIA: external(part.media, rate) },
    ...item(part.name, range(start, units, rate), effects),
  }
}

const warpsOf = ({ num, den }: Ratio): readonly object[] => (num === den ? [] : [warp('LinearTimeWarp.1', num / den)])

/** Parts one after the other, each from where the one before it ends on the track's own grid: rounding never adds up. */
function itemsOf({ parts, kind }: EditTrack, fps: number): readonly object[] {
  const rate = kind === 'Audio' ? SAMPLES : fps
  let at = 0
  return parts.flatMap((part) => {
    const begins = unitsAt(at, rate)
    at += part.length
    const units = unitsAt(at, rate) - begins
    return units === 0 ? [] : [itemOf(part, units, rate)]
  })
}

const marker = ({ name, at, length }: EditMark, fps: number) => ({
  OTIO_SCHEMA: 'Marker.2',
  color: 'GREEN',
  comment: '',
  marked_range: range(unitsAt(at, fps), unitsAt(at + length, fps) - unitsAt(at, fps), fps),
  metadata: {},
  name,
})

/** An edit list as OpenTimelineIO's JSON. Pictures are cut on the film's grid, sound by the sample. */
export function openTimeline({ name, fps, tracks, marks }: EditList): string {
  const children = tracks.map((track) => ({
    OTIO_SCHEMA: 'Track.1',
    children: itemsOf(track, fps),
    effects: [],
    enabled: true,
    kind: track.kind,
    markers: [],
    metadata: {},
    name: track.name,
    source_range: null,
  }))
  const timeline = {
    OTIO_SCHEMA: 'Timeline.1',
    global_start_time: null,
    metadata: {},
    name,
    tracks: {
      OTIO_SCHEMA: 'Stack.1',
      children,
      effects: [],
      enabled: true,
      markers: marks.map((mark) => marker(mark, fps)),
      metadata: {},
      name: 'tracks',
      source_range: null,
    },
  }
  return `${JSON.stringify(timeline, null, 2)}\n`
}

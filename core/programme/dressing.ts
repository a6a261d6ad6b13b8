import { MOST_BEDS, MOST_OVERLAYS, NO_BACKDROPS, NO_LIGHTS, NO_VOICES, OVERLAY_LENGTH, Refusal, SHORTEST_BED, asId } from '@core/model'
import type {
  AssetId,
  Backdrop,
  Bed,
  BedId,
  ByRecording,
  Light,
  Ms,
  NewBackdrop,
  Overlay,
  OverlayId,
  Piece,
  Programme,
  RecordedPiece,
  StretchId,
  VisitId,
  VoiceTreatment,
} from '@core/model'
import { programmeLength } from './length'
import { visitsOf } from './visits'
import type { Visit } from './visits'

/** What can lie over a talk. */
type Hung = Overlay | Bed

/** A programme with other overlays and music: what is empty is left out, so that taking all of it back gives the programme before. */
function dressed({ overlays: _, beds: __, ...rest }: Programme, overlays: readonly Overlay[], beds: readonly Bed[]): Programme {
  return { ...rest, ...(overlays.length === 0 ? {} : { overlays }), ...(beds.length === 0 ? {} : { beds }) }
}

/** Puts one in place of that of its id, or behind the others. */
const putIn = <One extends Hung>(all: readonly One[], one: One): readonly One[] =>
  all.some(({ id }) => id === one.id) ? all.map((other) => (other.id === one.id ? one : other)) : [...all, one]

/**
 * Lays something over a talk, or changes it.
 * @throws Refusal `conflict` when there is too much of it, `malformed` when it is too short or too long
 */
export function withOverlay(programme: Programme, overlay: Overlay): Programme {
  if (overlay.length < OVERLAY_LENGTH.least || overlay.length > OVERLAY_LENGTH.most)
    throw new Refusal('malformed', 'It can stay for half a second to an hour.')
  const overlays = putIn(programme.overlays ?? [], overlay)
  if (overlays.length > MOST_OVERLAYS)
    throw new Refusal('conflict', `A talk can have ${String(MOST_OVERLAYS)} titles and pictures over it.`)
  return dressed(programme, overlays, programme.beds ?? [])
}

/**
 * Puts music under a talk, or changes it.
 * @throws Refusal `conflict` when there is too much of it, `malformed` when there is nothing of it
 */
export function withBed(programme: Programme, bed: Bed): Programme {
  const { from, length, media } = bed
  if (from > media.length - SHORTEST_BED || (length !== null && length < SHORTEST_BED))
    throw new Refusal('malformed', 'There is hardly anything of this music to be heard. Choose a longer part of it.')
  const beds = putIn(programme.beds ?? [], bed)
  if (beds.length > MOST_BEDS) throw new Refusal('conflict', `A talk can have ${String(MOST_BEDS)} pieces of music.`)
  return dressed(programme, programme.overlays ?? [], beds)
}

/** Takes overlays and music off. */
export function withoutHung(programme: Programme, ids: readonly (OverlayId | BedId)[]): Programme {
  const gone = new Set<string>(ids)
  const stays = ({ id }: Hung): boolean => !gone.has(id)
  return dressed(programme, (programme.overlays ?? []).filter(stays), (programme.beds ?? []).filter(stays))
}

/** What a programme says of recordings, and otherwise of visits. */
export const SAID_OF_RECORDINGS = ['voices', 'lights', 'backdrops'] as const
export type SaidOfRecordings = (typeof SAID_OF_RECORDINGS)[number]

/** A programme that says something else of recordings and visits; of none at all nothing is said. */
function saying<Name extends SaidOfRecordings>(programme: Programme, field: Name, value: NonNullable<Programme[Name]>): Programme {
  const { [field]: _, ...rest } = programme
  const none = Object.keys(value.stretches).length === 0 && Object.keys(value.visits).length === 0
  // What is left lacks nothing but a field that may be left out.
  const bare = rest as Programme
  return none ? bare : { ...bare, [field]: value }
}

/** What is said of names, with another value for some. @param value null: nothing is said of them */
function said<Name extends string, Value>(
  before: Readonly<Record<Name, Value>>,
  names: readonly Name[],
  value: Value | null,
): Readonly<Record<Name, Value>> {
  const concerned = new Set<string>(names)
  const others = Object.entries<Value>(before).filter(([name]) => !concerned.has(name))
  const own = value === null ? [] : names.map((name) => [name, value] as const)
  return Object.fromEntries([...others, ...own]) as Readonly<Record<Name, Value>>
}

function saidOf<Value>(
  before: ByRecording<Value>,
  stretches: readonly StretchId[],
  visits: readonly VisitId[],
  value: Value | null,
): ByRecording<Value> {
  return { stretches: said(before.stretches, stretches, value), visits: said(before.visits, visits, value) }
}

/** Says what is done to recordings, and to visits. @param treatment null: nothing for recordings; for visits as for their recordings */
export const withTreatment = (
  programme: Programme,
  stretches: readonly StretchId[],
  visits: readonly VisitId[],
  treatment: VoiceTreatment | null,
): Programme => saying(programme, 'voices', saidOf(programme.voices ?? NO_VOICES, stretches, visits, treatment))

/** As `withTreatment`, for the light of camera pictures. */
export const withLight = (
  programme: Programme,
  stretches: readonly StretchId[],
  visits: readonly VisitId[],
  light: Light | null,
): Programme => saying(programme, 'lights', saidOf(programme.lights ?? NO_LIGHTS, stretches, visits, light))

/** The light of a camera picture in a visit; null: as filmed. */
export function lightIn({ lights = NO_LIGHTS }: Pick<Programme, 'lights'>, visit: VisitId, stretch: StretchId): Light | null {
  const found = lights.visits[visit] ?? lights.stretches[stretch]
  return found === undefined || isAsFilmed(found) ? null : found
}

/** As `withTreatment`, for what is seen behind the presenter. */
export const withBackdrop = (
  programme: Programme,
  stretches: readonly StretchId[],
  visits: readonly VisitId[],
  backdrop: Backdrop | null,
): Programme => saying(programme, 'backdrops', saidOf(programme.backdrops ?? NO_BACKDROPS, stretches, visits, backdrop))

/** What is seen behind the presenter in a visit instead of the room; null: the room. */
export function backdropIn(
  { backdrops = NO_BACKDROPS }: Pick<Programme, 'backdrops'>,
  visit: VisitId,
  stretch: StretchId,
): NewBackdrop | null {
  const found = backdrops.visits[visit] ?? backdrops.stretches[stretch]
  return found === undefined || found.kind === 'filmed' ? null : found
}

/** How the camera's picture is changed in a visit; of what is as filmed nothing is said. */
export interface FaceDressing {
  readonly light?: Light
  readonly backdrop?: NewBackdrop
}
/** What of it is said. */
export const dressingOf = ({ light, backdrop }: FaceDressing): FaceDressing => ({
  ...(light === undefined ? {} : { light }),
  ...(backdrop === undefined ? {} : { backdrop }),
})
export function faceDressing(programme: Pick<Programme, 'lights' | 'backdrops'>, visit: VisitId, stretch: StretchId): FaceDressing {
  const [light, backdrop] = [lightIn(programme, visit, stretch), backdropIn(programme, visit, stretch)]
  return { ...(light === null ? {} : { light }), ...(backdrop === null ? {} : { backdrop }) }
}

/** Whether a light changes nothing. */
export const isAsFilmed = ({ brightness, contrast, warmth }: Light): boolean => brightness === 0 && contrast === 1 && warmth === 0

/** What is done to the voice of a piece; null: nothing. */
export function treatmentOf({ voices = NO_VOICES }: Pick<Programme, 'voices'>, piece: RecordedPiece): VoiceTreatment | null {
  if (piece.voice === null) return null
  const found = voices.visits[piece.visit] ?? voices.stretches[piece.voice.stretch]
  return found === undefined || isUntreated(found) ? null : found
}

/** Whether a treatment does nothing. */
export const isUntreated = ({ noise, hum, rumble, sibilance, level }: VoiceTreatment): boolean =>
  noise === null && hum === null && !rumble && !sibilance && !level

/** A programme in which what hung on a visit hangs on another. */
export function hungOn(programme: Programme, visit: VisitId, id: VisitId): Programme {
  const moved = <One extends Hung>(one: One): One => (one.visit === visit ? { ...one, visit: id } : one)
  const { overlays = [], beds = [] } = programme
  const next = dressed(programme, overlays.map(moved), beds.map(moved))
  return SAID_OF_RECORDINGS.reduce((said, field) => saidOfAnother(said, field, visit, id), next)
}

/** A programme that says of a visit what it said of another. */
function saidOfAnother(programme: Programme, field: SaidOfRecordings, visit: VisitId, id: VisitId): Programme {
  const before: ByRecording<unknown> | undefined = programme[field]
  const own = before?.visits[visit]
  if (before === undefined || own === undefined) return programme
  const others = Object.entries(before.visits).filter(([name]) => asId(name) !== visit)
  return { ...programme, [field]: { ...before, visits: Object.fromEntries([...others, [id, own]]) } }
}

/**
 * A programme in which what hung on visits that are gone hangs on the first that shows the same slide, as after a new take of all.
 * @param before what it was made from
 */
export function hungLike(programme: Programme, before: Programme): Programme {
  const [was, is] = [visitsById(before), visitsById(programme)]
  const hung = [...(before.overlays ?? []), ...(before.beds ?? [])].map(({ visit }) => visit)
  return [...new Set(hung)].reduce((next, visit) => {
    const slide = was.get(visit)?.slide
    if (slide === undefined || is.has(visit)) return next
    const instead = [...is.values()].find((one) => one.slide === slide)
    return instead === undefined ? next : hungOn(next, visit, instead.id)
  }, programme)
}

const visitsById = (programme: Pick<Programme, 'pieces'>): ReadonlyMap<VisitId, Visit> =>
  new Map(visitsOf(programme).map((visit) => [visit.id, visit]))

/** Something that hangs on a visit, and when it is there in the talk; from before its beginning in a part that begins later. */
export interface Placed<One> {
  readonly hung: One
  readonly from: Ms
  readonly to: Ms
}

/** When something begins in a talk; one that its visit is too short for begins as that ends. */
const beginsAt = ({ start, length }: Visit, offset: Ms): Ms => start + Math.min(offset, length)

function placed<One extends Hung>(programme: Pick<Programme, 'pieces'>, all: readonly One[] | undefined): readonly Placed<One>[] {
  if (all === undefined) return []
  const visits = visitsById(programme)
  const end = programmeLength(programme)
  return all
    .flatMap((hung): readonly Placed<One>[] => {
      const visit = visits.get(hung.visit)
      if (visit === undefined) return []
      const from = beginsAt(visit, hung.offset)
      const to = hung.length === null ? end : Math.min(end, from + hung.length)
      return to <= Math.max(0, from) ? [] : [{ hung, from, to }]
    })
    .sort((a, b) => a.from - b.from)
}

/** Overlays of visits that are played, by when they begin. */
export const placedOverlays = (programme: Pick<Programme, 'pieces' | 'overlays'>): readonly Placed<Overlay>[] =>
  placed(programme, programme.overlays)

/** Music of visits that are played, by when it begins. */
export const placedBeds = (programme: Pick<Programme, 'pieces' | 'beds'>): readonly Placed<Bed>[] => placed(programme, programme.beds)

/**
 * A part of a programme from one time on, in which everything lies where it lay; what begins before it has begun when it does.
 * @param from ms of the whole
 * @param pieces of the part
 */
export function dressedFrom(programme: Programme, from: Ms, pieces: readonly Piece[]): Programme {
  const part = { ...programme, pieces }
  const [whole, visits] = [visitsById(programme), visitsOf(part)]
  const [first] = visits
  const end = programmeLength(part)
  const moved = <One extends Hung>(one: One): readonly One[] => {
    const was = whole.get(one.visit)
    const begins = was === undefined ? end : beginsAt(was, one.offset) - from
    if (first === undefined || begins >= end) return []
    const own = visits.find(({ id }) => id === one.visit) ?? first
    return [{ ...one, visit: own.id, offset: begins - own.start }]
  }
  return dressed(part, (programme.overlays ?? []).flatMap(moved), (programme.beds ?? []).flatMap(moved))
}

/** Pictures that lie over a talk. */
export const picturesOver = ({ overlays = [] }: Pick<Programme, 'overlays'>): readonly AssetId[] =>
  overlays.flatMap((overlay) => (overlay.kind === 'picture' ? [overlay.asset] : []))

/** Pictures that are seen behind the presenter. */
export const picturesBehind = ({ backdrops = NO_BACKDROPS }: Pick<Programme, 'backdrops'>): readonly AssetId[] =>
  [...Object.values<Backdrop>(backdrops.stretches), ...Object.values<Backdrop>(backdrops.visits)].flatMap((backdrop) =>
    backdrop.kind === 'picture' ? [backdrop.asset] : [],
  )

/** Files that lie over a talk or behind who gives it: pictures and music. */
export const assetsOver = (programme: Pick<Programme, 'overlays' | 'beds' | 'backdrops'>): readonly AssetId[] => [
  ...picturesOver(programme),
  ...picturesBehind(programme),
  ...(programme.beds ?? []).map(({ media }) => media.file),
]

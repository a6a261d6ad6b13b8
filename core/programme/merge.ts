import { Refusal, asId } from '@core/model'
import type {
  AddedInk,
  Backdrop,
  Bed,
  ByRecording,
  Framing,
  InkEdit,
  Light,
  Overlay,
  Piece,
  Programme,
  StretchId,
  VisitId,
  VoiceTreatment,
} from '@core/model'
import { SAID_OF_RECORDINGS } from './dressing'
import type { SaidOfRecordings } from './dressing'

/** All that a programme says of one visit. */
interface VisitPart {
  readonly visit: VisitId | null
  readonly pieces: readonly Piece[]
  readonly framings: readonly (readonly [VisitId, Framing])[]
  readonly inkEdits: readonly InkEdit[]
  readonly inkAdded: readonly AddedInk[]
  readonly changedUnder: readonly VisitId[]
  readonly overlays: readonly Overlay[]
  readonly beds: readonly Bed[]
  readonly voices: readonly (readonly [VisitId, VoiceTreatment])[]
  readonly lights: readonly (readonly [VisitId, Light])[]
  readonly backdrops: readonly (readonly [VisitId, Backdrop])[]
}

type Growing = { -readonly [Key in keyof VisitPart]: VisitPart[Key] extends readonly (infer One)[] ? One[] : VisitPart[Key] }
const LISTS = ['pieces', 'framings', 'inkEdits', 'inkAdded', 'changedUnder', 'overlays', 'beds', ...SAID_OF_RECORDINGS] as const
const empty = (visit: VisitId | null): Growing => ({
  visit,
  pieces: [],
  framings: [],
  inkEdits: [],
  inkAdded: [],
  changedUnder: [],
  overlays: [],
  beds: [],
  voices: [],
  lights: [],
  backdrops: [],
})

/** A programme visit by visit; the first part holds what is said of visits that are not there. */
function partsOf(programme: Programme): Parts {
  const parts = new Map<VisitId | null, Growing>([[null, empty(null)]])
  for (const piece of programme.pieces) {
    const part = parts.get(piece.visit) ?? empty(piece.visit)
    parts.set(piece.visit, part)
    part.pieces.push(piece)
  }
  const of = (visit: VisitId): Growing | undefined => parts.get(visit) ?? parts.get(null)
  for (const [visit, framing] of Object.entries(programme.framings)) of(asId(visit))?.framings.push([asId(visit), framing])
  for (const edit of programme.inkEdits) of(edit.visit)?.inkEdits.push(edit)
  for (const ink of programme.inkAdded) of(ink.visit)?.inkAdded.push(ink)
  for (const visit of programme.changedUnder ?? []) of(visit)?.changedUnder.push(visit)
  addDressing(programme, of)
  return parts
}

/** Adds what lies over each visit, and what is done to its voice and its picture. */
function addDressing(programme: Programme, of: (visit: VisitId) => Growing | undefined): void {
  const { overlays = [], beds = [] } = programme
  for (const overlay of overlays) of(overlay.visit)?.overlays.push(overlay)
  for (const bed of beds) of(bed.visit)?.beds.push(bed)
  for (const field of SAID_OF_RECORDINGS) addSaid(field, programme[field], of)
}

/** Adds what is said of each visit. */
function addSaid(field: SaidOfRecordings, said: Programme[SaidOfRecordings], of: (visit: VisitId) => Growing | undefined): void {
  for (const one of saidOfVisits<unknown>(said)) {
    // What a field of a programme says of visits is what their parts say in that field.
    const all = of(one[0])?.[field] as (readonly [VisitId, unknown])[] | undefined
    all?.push(one)
  }
}

const saidOfVisits = <Value>(said: ByRecording<Value> | undefined): readonly (readonly [VisitId, Value])[] =>
  Object.entries<Value>(said?.visits ?? {}).map(([visit, value]) => [asId<'visit'>(visit), value] as const)

type Parts = ReadonlyMap<VisitId | null, VisitPart>

/** Whether two plain values say the same. Edits share what they leave alone, so most of it is seen at a glance. */
function same(a: unknown, b: unknown): boolean {
  if (a === b) return true
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false
  if (Array.isArray(a)) return Array.isArray(b) && sameList(a, b)
  const keys = Object.keys(a)
  return (
    keys.length === Object.keys(b).length &&
    keys.every((key) => key in b && same((a as Readonly<Record<string, unknown>>)[key], (b as Readonly<Record<string, unknown>>)[key]))
  )
}

function sameList(a: readonly unknown[], b: readonly unknown[]): boolean {
  if (a.length !== b.length) return false
  for (let n = 0; n < a.length; n += 1) if (!same(a[n], b[n])) return false
  return true
}

/** Visits that two programmes, seen visit by visit, say differently of. */
function differing(left: Parts, right: Parts): ReadonlySet<VisitId | null> {
  const found = new Set<VisitId | null>()
  for (const [visit, part] of left) {
    const other = right.get(visit)
    if (other === undefined || LISTS.some((list) => !sameList(part[list], other[list]))) found.add(visit)
  }
  for (const visit of right.keys()) if (!left.has(visit)) found.add(visit)
  return found
}

/** Visits that differ between two programmes, those that only one of them has included. */
export const changedVisits = (a: Programme, b: Programme): ReadonlySet<VisitId | null> => differing(partsOf(a), partsOf(b))

const common = (order: readonly (VisitId | null)[], others: Parts): readonly (VisitId | null)[] =>
  order.filter((visit) => others.has(visit))
const sameOrder = (a: readonly (VisitId | null)[], b: readonly (VisitId | null)[]): boolean =>
  a.length === b.length && a.every((visit, n) => visit === b[n])

/** Lays what one order adds into another, each behind what it stands behind there, and takes out what it lacks. */
function woven(into: readonly (VisitId | null)[], from: readonly (VisitId | null)[], base: Parts): readonly (VisitId | null)[] {
  const wanted = new Set(from)
  const order = into.filter((visit) => wanted.has(visit) || !base.has(visit))
  for (const [n, visit] of from.entries()) {
    if (base.has(visit) || order.includes(visit)) continue
    const before = from.slice(0, n).findLast((one) => order.includes(one))
    order.splice(before === undefined ? 0 : order.indexOf(before) + 1, 0, visit)
  }
  return order
}

/**
 * The order of visits when two changes are brought together.
 * @throws Refusal `conflict` when both changed it
 */
function mergedOrder(from: Parts, left: Parts, right: Parts): readonly (VisitId | null)[] {
  const [base, first, second] = [[...from.keys()], [...left.keys()], [...right.keys()]]
  const moved = (order: readonly (VisitId | null)[], parts: Parts): boolean => !sameOrder(common(order, from), common(base, parts))
  const firstMoved = moved(first, left)
  if (firstMoved && moved(second, right) && !sameOrder(common(first, right), common(second, left))) {
    throw new Refusal(
      'conflict',
      'The order was changed elsewhere in the meantime. Nothing was overwritten; look at how it is now, and change that.',
    )
  }
  return firstMoved ? woven(first, second, from) : woven(second, first, from)
}

/** What captions look like: the change that was made last, of whatever anybody changed. */
function mergedCaptions(base: Programme, mine: Programme, theirs: Programme): Pick<Programme, 'captions'> {
  const { captions } = same(base.captions, mine.captions) ? theirs : mine
  return captions === undefined ? {} : { captions }
}

/** What is said of recordings: of whatever anybody changed, the change that was made last. */
function saidOfRecordings(
  field: SaidOfRecordings,
  base: Programme,
  mine: Programme,
  theirs: Programme,
): Readonly<Record<StretchId, unknown>> {
  const of = (programme: Programme): Readonly<Record<StretchId, unknown>> => programme[field]?.stretches ?? {}
  const [was, own, other] = [of(base), of(mine), of(theirs)]
  const names = [...new Set([own, other].flatMap((one) => Object.keys(one)))].map((name) => asId<'stretch'>(name))
  return Object.fromEntries(
    names.flatMap((name) => {
      const value = same(was[name], own[name]) ? other[name] : own[name]
      return value === undefined ? [] : [[name, value] as const]
    }),
  )
}

/** What is said of recordings and visits; of none nothing is. */
function mergedSayings(all: VisitPart, base: Programme, mine: Programme, theirs: Programme): Pick<Programme, SaidOfRecordings> {
  return Object.fromEntries(
    SAID_OF_RECORDINGS.flatMap((field) => {
      const [visits, stretches] = [Object.fromEntries<unknown>(all[field]), saidOfRecordings(field, base, mine, theirs)]
      return Object.keys(visits).length === 0 && Object.keys(stretches).length === 0 ? [] : [[field, { stretches, visits }] as const]
    }),
  )
}

/** Adds all that is said of one visit to what is said of others. */
function addPart(all: Growing, part: VisitPart): void {
  for (const piece of part.pieces) all.pieces.push(piece)
  for (const framing of part.framings) all.framings.push(framing)
  for (const edit of part.inkEdits) all.inkEdits.push(edit)
  for (const ink of part.inkAdded) all.inkAdded.push(ink)
  for (const changed of part.changedUnder) all.changedUnder.push(changed)
  for (const overlay of part.overlays) all.overlays.push(overlay)
  for (const bed of part.beds) all.beds.push(bed)
  for (const voice of part.voices) all.voices.push(voice)
  for (const light of part.lights) all.lights.push(light)
  for (const backdrop of part.backdrops) all.backdrops.push(backdrop)
}

/** What lies over a programme; of what does not nothing is said. */
const dressing = ({ overlays, beds }: VisitPart): Pick<Programme, 'overlays' | 'beds'> => ({
  ...(overlays.length === 0 ? {} : { overlays }),
  ...(beds.length === 0 ? {} : { beds }),
})

/**
 * Brings two changes of one programme together: edits of different visits are both kept, edits of the same visit are not.
 * Also takes a change back while later ones stay: what it was made from is then `mine`.
 * @param base what both were made from
 * @param mine what one made of it
 * @param theirs what the other made of it; the result follows it
 * @throws Refusal `conflict` when both changed the same visit, or both the order
 */
export function merged(base: Programme, mine: Programme, theirs: Programme): Programme {
  const [from, left, right] = [partsOf(base), partsOf(mine), partsOf(theirs)]
  const changed = [...differing(from, left)]
  for (const visit of changed) {
    if (!same(from.get(visit), right.get(visit)) && !same(left.get(visit), right.get(visit))) {
      throw new Refusal(
        'conflict',
        'This part was changed elsewhere in the meantime. Nothing was overwritten; look at how it is now, and change that.',
      )
    }
  }
  const mineChanged = new Set(changed)
  const all = empty(null)
  for (const visit of mergedOrder(from, left, right)) {
    const part = mineChanged.has(visit) ? left.get(visit) : right.get(visit)
    if (part !== undefined) addPart(all, part)
  }
  return {
    pieces: all.pieces,
    framings: Object.fromEntries(all.framings),
    inkEdits: all.inkEdits,
    inkAdded: all.inkAdded,
    ...(all.changedUnder.length === 0 ? {} : { changedUnder: all.changedUnder }),
    ...mergedCaptions(base, mine, theirs),
    ...dressing(all),
    ...mergedSayings(all, base, mine, theirs),
    slides: {
      ...theirs.slides,
      ...Object.fromEntries(
        Object.entries(mine.slides).filter(([slide, version]) => base.slides[slide as keyof typeof base.slides] !== version),
      ),
    },
    revision: theirs.revision,
  }
}

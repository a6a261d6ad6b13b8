import type { OfficeFinding } from '@core/office'
import type { OfficePackage } from '../office-package'
import { attribute, childOf, relationOf, within } from '../xml'
import type { Document, Element } from '../xml'
import { isSound } from '../office-deck'
import type { OfficeMedia } from '../office-deck'
import type { Relation } from './relations'
import { roleOf, shapeIdOf, shapesOf } from './shapes'

/** Elements by which a shape is a film or a sound (ISO/IEC 29500-1, 20.1.3). */
const MEDIA: ReadonlySet<string> = new Set(['audioFile', 'videoFile', 'quickTimeFile', 'wavAudioFile', 'audioCd', 'media'])

/** A film or a sound on a slide. */
export interface SlideMedia {
  readonly shape: string
  /** In the file; null: it lies elsewhere, or is missing. */
  readonly inside: OfficeMedia | null
  /** Where it lies, if not in the file. */
  readonly address: string | null
  readonly film: boolean
  /** It is what the presenter recorded on the slide. */
  readonly narration: boolean
  /** It begins again when it is over. */
  readonly loop: boolean
}

/** Elements of a shape that name a film or a sound. */
export const mediaElements = (shape: Element): readonly Element[] => {
  const role = roleOf(shape)
  return role === null ? [] : [...within(role)].filter((one) => MEDIA.has(one.localName ?? ''))
}

const isFilm = ({ localName }: Element): boolean => localName === 'videoFile' || localName === 'quickTimeFile'

const lengthIn = (element: Element | null, name: string): number => {
  const value = Number(element === null ? null : attribute(element, name))
  return Number.isFinite(value) && value > 0 ? Math.round(value) : 0
}

/** Films and sounds on a slide. */
export function mediaOn(slide: Document, relations: ReadonlyMap<string, Relation>, file: OfficePackage): readonly SlideMedia[] {
  const narrated = new Set(
    [...within(slide)]
      .filter(
        (one) => (one.localName === 'audio' || one.localName === 'video') && ['1', 'true'].includes(attribute(one, 'isNarration') ?? ''),
      )
      .flatMap((one) => [...within(one, 'spTgt')].map((target) => attribute(target, 'spid') ?? '')),
  )
  const looped = new Set(
    [...within(slide, 'cMediaNode')]
      .filter((one) => attribute(childOf(one, 'cTn') ?? one, 'repeatCount') === 'indefinite')
      .flatMap((one) => [...within(one, 'spTgt')].map((target) => attribute(target, 'spid') ?? '')),
  )
  const found = new Map<string, SlideMedia>()
  for (const shape of shapesOf(slide)) {
    const elements = mediaElements(shape)
    const named = elements.flatMap((element) => {
      const relation = relations.get(relationOf(element, 'embed') ?? relationOf(element, 'link') ?? '')
      return relation === undefined ? [] : [{ element, relation }]
    })
    if (named.length === 0) continue
    const id = shapeIdOf(shape) ?? ''
    const inside = named.find(({ relation }) => !relation.external && file.has(relation.target))
    const outside = named.find(({ relation }) => relation.external)
    const trim = [...within(shape, 'trim')][0] ?? null
    found.set(id, {
      shape: id,
      inside:
        inside === undefined ? null : { part: inside.relation.target, trim: { start: lengthIn(trim, 'st'), end: lengthIn(trim, 'end') } },
      address: outside?.relation.target ?? null,
      film: elements.some(isFilm) && !isSound(inside?.relation.target ?? ''),
      narration: narrated.has(id),
      loop: looped.has(id),
    })
  }
  return [...found.values()]
}

const hostOf = (address: string): string => {
  try {
    return new URL(address).hostname
  } catch {
    return ''
  }
}

/** What a film or sound that lies outside the file, or is missing, is told as. */
const outsideFinding = (slide: number, address: string | null): OfficeFinding => {
  if (address === null) return { kind: 'missing', slide }
  const host = /^https?:/i.test(address) ? hostOf(address) : ''
  return host === '' ? { kind: 'elsewhere', slide } : { kind: 'internet', slide, host }
}

/** What is told of a slide's films and sounds, and of what else it names that is not there. */
export function mediaFindings(
  number: number,
  media: readonly SlideMedia[],
  relations: ReadonlyMap<string, Relation>,
  file: OfficePackage,
): readonly OfficeFinding[] {
  const findings: OfficeFinding[] = []
  for (const { inside, address } of media) if (inside === null) findings.push(outsideFinding(number, address))
  const named = [...relations.values()]
  const linked = ({ type, external }: Relation): boolean => external && ['image', 'oleObject', 'package'].includes(type)
  if (named.some(linked)) findings.push({ kind: 'elsewhere', slide: number })
  const gone = ({ type, external, target }: Relation): boolean => type === 'image' && !external && !file.has(target)
  if (named.some(gone)) findings.push({ kind: 'missing', slide: number })
  return findings
}

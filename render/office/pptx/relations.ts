import { posix } from 'node:path'
import { resolved } from '../office-package'
import type { OfficePackage } from '../office-package'
import { attribute, childOf, childrenOf, parseXml } from '../xml'

/** What a part refers to (ISO/IEC 29500-2, 6.5). */
export interface Relation {
  readonly id: string
  /** Last part of its type, such as `slideLayout`. */
  readonly type: string
  /** Whole type, as the file writes it. */
  readonly uri: string
  /** Name of a part; of an external one whatever the file says. */
  readonly target: string
  readonly external: boolean
}

/** Where a part's relations stand. */
export const relationsPart = (part: string): string => posix.join(posix.dirname(part), '_rels', `${posix.basename(part)}.rels`)

/** What a part refers to, by id; nothing for a part without relations. @param part empty: the whole file */
export async function relationsOf(file: OfficePackage, part: string): Promise<ReadonlyMap<string, Relation>> {
  const name = part === '' ? '_rels/.rels' : relationsPart(part)
  if (!file.has(name)) return new Map()
  const root = childOf(parseXml(await file.text(name)), 'Relationships')
  const relations = root === null ? [] : childrenOf(root, 'Relationship')
  return new Map(
    relations.map((one) => {
      const [id, uri, target] = [attribute(one, 'Id') ?? '', attribute(one, 'Type') ?? '', attribute(one, 'Target') ?? '']
      const external = attribute(one, 'TargetMode') === 'External'
      return [id, { id, uri, type: uri.split('/').at(-1) ?? '', external, target: external ? target : resolved(part, target) }]
    }),
  )
}

/** The first relation of a type. */
export const relationOfType = (relations: ReadonlyMap<string, Relation>, type: string): Relation | undefined =>
  [...relations.values()].find((one) => one.type === type)

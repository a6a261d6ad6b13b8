import type { OfficePackage } from '../office-package'
import { parseXml } from '../xml'
import type { Document } from '../xml'
import type { Templates } from './inherited'
import { relationOfType, relationsOf } from './relations'
import type { Relation } from './relations'

/** Layouts and masters, each read once. */
export class TemplateParts {
  readonly #file: OfficePackage
  readonly #documents = new Map<string, Promise<Document>>()

  constructor(file: OfficePackage) {
    this.#file = file
  }

  async of(slide: ReadonlyMap<string, Relation>): Promise<Templates> {
    const layout = this.#named(relationOfType(slide, 'slideLayout'))
    if (layout === null) return { layout: null, master: null }
    const master = this.#named(relationOfType(await relationsOf(this.#file, layout), 'slideMaster'))
    return { layout: await this.#read(layout), master: master === null ? null : await this.#read(master) }
  }

  #named(relation: Relation | undefined): string | null {
    return relation === undefined || relation.external || !this.#file.has(relation.target) ? null : relation.target
  }

  #read(part: string): Promise<Document> {
    const known = this.#documents.get(part)
    if (known !== undefined) return known
    const reading = this.#file.text(part).then(parseXml)
    this.#documents.set(part, reading)
    return reading
  }
}

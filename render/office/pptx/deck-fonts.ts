import type { OfficePackage } from '../office-package'
import { attribute, childOf, parseXml, within } from '../xml'
import type { Document } from '../xml'
import { relationOfType, relationsOf } from './relations'
import type { Relation } from './relations'

/** Names of fonts that a part asks for. */
export function* fontsIn(document: Document): Generator<string> {
  for (const name of ['latin', 'ea', 'cs', 'sym']) {
    for (const element of within(document, name)) yield attribute(element, 'typeface') ?? ''
  }
}

/** The font that the theme of a slide's master gives to text, and to headings where the slide has one. */
export async function* themeFonts(file: OfficePackage, relations: ReadonlyMap<string, Relation>, titled: boolean): AsyncGenerator<string> {
  const layout = relationOfType(relations, 'slideLayout')
  const master = layout === undefined ? undefined : relationOfType(await relationsOf(file, layout.target), 'slideMaster')
  const theme = master === undefined ? undefined : relationOfType(await relationsOf(file, master.target), 'theme')
  if (theme === undefined || theme.external || !file.has(theme.target)) return
  const wanted = titled ? ['minorFont', 'majorFont'] : ['minorFont']
  for (const scheme of within(parseXml(await file.text(theme.target)), 'fontScheme')) {
    for (const name of wanted) {
      const latin = childOf(scheme, name, 'latin')
      if (latin !== null) yield attribute(latin, 'typeface') ?? ''
    }
  }
}

import { attribute, childOf, childrenOf, removeElement } from '../xml'
import type { Element } from '../xml'

/** Elements that fill something (ISO/IEC 29500-1, 20.1.8). */
const FILLS = ['noFill', 'solidFill', 'gradFill', 'blipFill', 'pattFill', 'grpFill']
/** What else is seen of letters. */
const OF_LETTERS: ReadonlySet<string> = new Set([
  ...FILLS,
  ...['ln', 'effectLst', 'effectDag', 'highlight', 'uLn', 'uLnTx', 'uFill', 'uFillTx'],
])
/** What else is seen of a shape. */
const OF_GROUND: ReadonlySet<string> = new Set([...FILLS, 'ln', 'effectLst', 'effectDag'])
const BULLETS: ReadonlySet<string> = new Set(['buNone', 'buChar', 'buAutoNum', 'buBlip'])
/** As wide as a bullet, and not seen. */
const NO_BREAK_SPACE = '\u00A0'

/** The namespace of DrawingML, of either edition of the standard. */
const DRAWING = /\/drawingml\/(2006\/)?main$/
const USUAL_DRAWING = 'http://schemas.openxmlformats.org/drawingml/2006/main'

/** Makes an element of DrawingML, for the document that another is in. */
function drawing(
  beside: Element,
  name: string,
  attributes: Readonly<Record<string, string>> = {},
  inside: readonly Element[] = [],
): Element {
  const document = beside.ownerDocument
  const root = document?.documentElement
  if (document == null || root == null) throw new Error('an element is in a document')
  const declared = Array.from({ length: root.attributes.length }, (_, n) => root.attributes.item(n)?.value ?? '')
  const made = document.createElementNS(declared.find((value) => DRAWING.test(value)) ?? USUAL_DRAWING, `a:${name}`)
  for (const [key, value] of Object.entries(attributes)) made.setAttribute(key, value)
  for (const child of inside) made.appendChild(child)
  return made
}

/** Puts an element behind those of its siblings that the schema wants before it. */
function put(parent: Element, made: Element, behind: readonly string[] = []): void {
  parent.insertBefore(made, childrenOf(parent).find((child) => !behind.includes(child.localName ?? '')) ?? null)
}

const removeOf = (parent: Element, names: ReadonlySet<string>): void => {
  childrenOf(parent)
    .filter((child) => names.has(child.localName ?? ''))
    .forEach(removeElement)
}

/** Properties of a run or a paragraph, made where it has none. */
function propertiesIn(element: Element, name: string): Element {
  const there = childOf(element, name)
  if (there !== null) return there
  const made = drawing(element, name)
  element.insertBefore(made, element.firstChild)
  return made
}

/** Makes letters take their room without being seen. */
function clearLetters(properties: Element): void {
  removeOf(properties, OF_LETTERS)
  properties.removeAttribute('u')
  properties.removeAttribute('strike')
  const clear = drawing(properties, 'srgbClr', { val: '000000' }, [drawing(properties, 'alpha', { val: '0' })])
  put(properties, drawing(properties, 'solidFill', {}, [clear]))
}

/** Makes a paragraph take its room without being seen, so that what is around it stays where it is. */
export function clearParagraph(paragraph: Element, bulleted: boolean): void {
  for (const run of childrenOf(paragraph)) {
    if (['r', 'fld', 'br'].includes(run.localName ?? '')) clearLetters(propertiesIn(run, 'rPr'))
  }
  if (!bulleted) return
  const properties = propertiesIn(paragraph, 'pPr')
  removeOf(properties, BULLETS)
  // The order of what is in it is fixed (ISO/IEC 29500-1, 21.1.2.2.7).
  const before = ['lnSpc', 'spcBef', 'spcAft', 'buClrTx', 'buClr', 'buSzTx', 'buSzPct', 'buSzPts', 'buFontTx', 'buFont']
  put(properties, drawing(properties, 'buChar', { char: NO_BREAK_SPACE }), before)
}

/** Takes away what is behind a shape's text. */
export function clearGround(shape: Element): void {
  const properties = childOf(shape, 'spPr')
  if (properties === null) return
  removeOf(properties, OF_GROUND)
  const geometry = ['xfrm', 'custGeom', 'prstGeom']
  put(properties, drawing(properties, 'noFill'), geometry)
  put(properties, drawing(properties, 'ln', {}, [drawing(properties, 'noFill')]), [...geometry, 'noFill'])
}

/** Takes a number in the text in place of a field that counts pages. */
export function fixNumber(field: Element, number: number): void {
  if (attribute(field, 'type') !== 'slidenum') return
  const properties = childOf(field, 'rPr')
  const text = drawing(field, 't')
  text.textContent = String(number)
  field.parentNode?.replaceChild(drawing(field, 'r', {}, properties === null ? [text] : [properties, text]), field)
}

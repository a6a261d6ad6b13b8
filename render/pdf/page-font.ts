import type { PDFPageProxy } from 'pdfjs-dist/legacy/build/pdf.mjs'
/** A font's family as a person reads it, from its name in a document such as `BAAAAA+NotoSans-Bold` (ISO 32000-1, 9.6.4). */
const familyOf = (name: string): string =>
  name
    .replace(/^[A-Z]{6}\+/, '')
    .replace(/[-,](Regular|Bold|Italic|Oblique|Medium|Light|Book|Roman|PS|MT|Semibold|Black)+.*$/i, '')
    .replace(/(?<=[a-z])(?=[A-Z])/g, ' ')
    .trim()

interface LoadedFont {
  readonly name?: unknown
}

/** The family of the font in which most of a page's words are set; empty for a page without words. */
export async function fontOf(page: PDFPageProxy): Promise<string> {
  // Drawing is what makes the library read fonts.
  await page.getOperatorList()
  const content = await page.getTextContent()
  const signs = new Map<string, number>()
  for (const item of content.items) {
    if ('str' in item) signs.set(item.fontName, (signs.get(item.fontName) ?? 0) + item.str.length)
  }
  const [most] = [...signs].sort((a, b) => b[1] - a[1])
  if (most === undefined || !page.commonObjs.has(most[0])) return ''
  const font = page.commonObjs.get(most[0]) as LoadedFont | null
  return typeof font?.name === 'string' ? familyOf(font.name) : ''
}

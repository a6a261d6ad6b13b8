import { readFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import * as fontkit from 'fontkit'
import type PDFDocument from 'pdfkit'

const require = createRequire(import.meta.url)

/** Where Debian has fonts for what the shipped ones have no signs of. */
const SYSTEM = '/usr/share/fonts/truetype/noto'
const OTHERS = ['NotoSans', 'NotoSansArabic', 'NotoSansHebrew', 'NotoSansDevanagari', 'NotoSansThai', 'NotoSansSymbols2', 'NotoSansMath']

export type Weight = 'plain' | 'bold'

interface KnownFont {
  readonly name: string
  readonly has: (code: number) => boolean
}

/** As WOFF: of the newer form fontkit takes no glyphs that are put together of others. */
const shipped = (name: string, style: string): string =>
  join(
    dirname(require.resolve('@fontsource/atkinson-hyperlegible-next/package.json')),
    'files',
    `atkinson-hyperlegible-next-${name}-${style}.woff`,
  )

/** Files of a weight, the first that has a sign is taken. */
const filesOf = (weight: Weight): readonly string[] => [
  ...['latin', 'latin-ext'].map((subset) => shipped(subset, weight === 'bold' ? '600-normal' : '400-normal')),
  ...OTHERS.map((name) => join(SYSTEM, `${name}-${weight === 'bold' ? 'Bold' : 'Regular'}.ttf`)),
]

/** Words of one font. */
export interface FontRun {
  readonly font: string
  readonly text: string
}

/** Fonts of a document: of each sign one that has it. */
export class DocumentFonts {
  readonly #known: Readonly<Record<Weight, readonly KnownFont[]>>

  private constructor(known: Readonly<Record<Weight, readonly KnownFont[]>>) {
    this.#known = known
  }

  /** Makes the fonts known to a document; those that this machine does not have are left out. */
  static async of(document: InstanceType<typeof PDFDocument>): Promise<DocumentFonts> {
    const known: Record<Weight, KnownFont[]> = { plain: [], bold: [] }
    for (const weight of ['plain', 'bold'] as const)
      for (const [n, file] of filesOf(weight).entries()) {
        const bytes = await readFile(file).catch(() => null)
        if (bytes === null) continue
        const name = `${weight}-${String(n)}`
        const font = fontkit.create(bytes)
        document.registerFont(name, bytes)
        known[weight].push({ name, has: (code) => 'hasGlyphForCodePoint' in font && font.hasGlyphForCodePoint(code) })
      }
    return new DocumentFonts(known)
  }

  /** Text in runs of one font each. A blank stays in the run that it stands in. */
  runs(text: string, weight: Weight): readonly FontRun[] {
    const fonts = this.#known[weight]
    const runs: { font: string; text: string }[] = []
    for (const sign of text) {
      const last = runs.at(-1)
      const code = sign.codePointAt(0) ?? 0
      const stays = last !== undefined && (/\s/.test(sign) || fonts.find(({ name }) => name === last.font)?.has(code) === true)
      if (stays) last.text += sign
      else runs.push({ font: (fonts.find(({ has }) => has(code)) ?? fonts[0])?.name ?? 'Helvetica', text: sign })
    }
    return runs
  }
}

import { writeFileSync } from 'node:fs'
import { createCanvas } from '@napi-rs/canvas'
import { FACES, cssFont } from '@core/compose'
import type { Font } from '@core/compose'
import { registerFonts } from '@render/type'

/**
 * Measures how far each sign of the shipped fonts advances, in thousandths of the font's size, so that slides break
 * their lines at the same words wherever they are laid out. Run again when a font changes.
 */
registerFonts()
const ctx = createCanvas(10, 10).getContext('2d')
const ranges: readonly (readonly [number, number])[] = [
  [0x20, 0x7e],
  [0xa0, 0x17f],
  [0x2010, 0x2027],
  [0x2030, 0x203a],
  [0x20ac, 0x20ac],
  [0x2122, 0x2122],
  [0x2190, 0x2193],
  [0x2212, 0x2212],
]
const signs = ranges.flatMap(([from, to]) => Array.from({ length: to - from + 1 }, (_, n) => String.fromCodePoint(from + n)))

const widths = (face: Font['face'], bold: boolean, italic: boolean): readonly number[] => {
  ctx.font = cssFont({ face, bold, italic, size: 1000 }, 1)
  return signs.map((sign) => Math.round(ctx.measureText(sign).width))
}
const out = {
  signs: signs.join(''),
  read: widths('read', false, false),
  readBold: widths('read', true, false),
  display: widths('display', true, false),
  code: widths('code', false, false)[1] ?? 600,
}
writeFileSync('core/compose/advances.json', `${JSON.stringify(out)}\n`)
console.log(`${String(signs.length)} signs of ${Object.values(FACES).join(', ')}`)

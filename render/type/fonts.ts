import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import { GlobalFonts } from '@napi-rs/canvas'
import { FACES } from '@core/compose'

const require = createRequire(import.meta.url)

/** The package that ships each family, and the styles of it that are drawn with. */
const SHIPPED: readonly { readonly family: string; readonly name: string; readonly styles: readonly string[] }[] = [
  { family: FACES.read, name: 'atkinson-hyperlegible-next', styles: ['400-normal', '400-italic', '600-normal', '600-italic'] },
  { family: FACES.display, name: 'bricolage-grotesque', styles: ['600-normal'] },
  { family: FACES.code, name: 'commit-mono', styles: ['400-normal', '700-normal'] },
]

let registered = false

/** Makes the fonts that slides are drawn with known to the canvas, from the same files that browsers get. Asked again, does nothing. */
export function registerFonts(): void {
  if (registered) return
  registered = true
  for (const { family, name, styles } of SHIPPED) {
    const folder = join(dirname(require.resolve(`@fontsource/${name}/package.json`)), 'files')
    for (const subset of ['latin', 'latin-ext']) {
      for (const style of styles) GlobalFonts.registerFromPath(join(folder, `${name}-${subset}-${style}.woff2`), family)
    }
  }
}

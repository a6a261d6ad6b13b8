import { pathToFileURL } from 'node:url'
import { resolve } from 'node:path'

/** A page of a demo deck: its label (pages that share one are steps of one slide) and what is on it, as HTML. */
export interface DeckPage {
  readonly label: string
  readonly html: string
}

const font = (name: string, file: string, weight: string): string =>
  `@font-face{font-family:'${name}';font-weight:${weight};src:url('${pathToFileURL(resolve('node_modules', file)).href}')}`

const STYLE = `
${font('Display', '@fontsource-variable/bricolage-grotesque/files/bricolage-grotesque-latin-wght-normal.woff2', '200 800')}
${font('Read', '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff2', '400')}
${font('Read', '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-600-normal.woff2', '600')}
${font('Clock', '@fontsource/commit-mono/files/commit-mono-latin-400-normal.woff2', '400')}
@page{size:1280px 720px;margin:0}
*{box-sizing:border-box}
body{margin:0;font:30px/1.4 Read;color:#17303f;-webkit-print-color-adjust:exact}
section{position:relative;width:1280px;height:720px;padding:56px 72px;break-after:page;overflow:hidden;background:#fbfaf5}
section.deep{background:#173a4a;color:#f4efe2}
h1{margin:0 0 12px;font:700 58px/1.1 Display;letter-spacing:-.01em}
h2{margin:0 0 22px;font:700 44px/1.1 Display;letter-spacing:-.01em}
p{margin:0 0 14px}.soft{opacity:.72}.small{font-size:22px}
ul{margin:0;padding-left:1.1em}li{margin-bottom:12px}
table{border-collapse:collapse;font:28px Clock}td,th{padding:7px 26px 7px 0;text-align:left}th{font:600 22px Read;opacity:.7}
svg{position:absolute;left:0;top:0}svg text{font-family:Read;fill:#17303f}
`

/** All pages of a deck as one document to be printed. */
export const deckDocument = (title: string, pages: readonly DeckPage[]): string =>
  `<!doctype html><html lang="en"><meta charset="utf-8"><title>${title}</title><style>${STYLE}</style>` +
  `${pages.map((page) => page.html).join('')}</html>`

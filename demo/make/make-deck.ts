import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { PDFDict, PDFDocument, PDFName, PDFNumber, PDFString } from 'pdf-lib'
import { run } from '@render/process'
import { deckDocument } from './slide-page'
import type { DeckPage } from './slide-page'

/** Prints a deck as PDF and gives its pages their labels. */
export async function makeDeck(title: string, pages: readonly DeckPage[], out: string): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'aisle-deck-'))
  const html = join(folder, 'deck.html')
  const printed = join(folder, 'deck.pdf')
  writeFileSync(html, deckDocument(title, pages))
  await run(
    'chromium',
    [
      '--headless',
      '--no-sandbox',
      '--disable-gpu',
      '--disable-background-networking',
      '--allow-file-access-from-files',
      `--user-data-dir=${join(folder, 'profile')}`,
      '--no-pdf-header-footer',
      '--virtual-time-budget=4000',
      `--print-to-pdf=${printed}`,
      pathToFileURL(html).href,
    ],
    { hold: { time: 60_000, memory: 32 * 1024 ** 3 } },
  )
  const document = await PDFDocument.load(readFileSync(printed))
  if (document.getPageCount() !== pages.length)
    throw new Error(`printed ${String(document.getPageCount())} pages of ${String(pages.length)}`)
  const numbers = document.context.obj(
    pages.flatMap((page, at) => {
      const label = PDFDict.withContext(document.context)
      label.set(PDFName.of('P'), PDFString.of(page.label))
      return [PDFNumber.of(at), label]
    }),
  )
  document.catalog.set(PDFName.of('PageLabels'), document.context.obj({ Nums: numbers }))
  writeFileSync(out, await document.save())
}

import { drawPage, openPdf, pageOf } from '@render/pdf'

/** Bare drawing is drawing at 1080 lines, as an export does. */
const SCREEN = { width: 1920, height: 1920 }

/**
 * Draws the pages of the PDF that is named, and nothing else, and prints how many ms that took. A process of its own, as reading
 * a deck is, since a second pass over the same pages in one process takes a third of the first one's time.
 */
const document = await openPdf(process.argv[2] ?? '')
// Whoever is first pays for loading the library's code; that is not counted.
await drawPage(await pageOf(document, 1), SCREEN)
const began = performance.now()
for (let n = 1; n <= document.numPages; n += 1) {
  const page = await pageOf(document, n)
  const canvas = await drawPage(page, SCREEN)
  // Drawing is put off until somebody asks for pixels.
  canvas.getContext('2d').getImageData(0, 0, 1, 1)
  page.cleanup()
}
console.log(performance.now() - began)
process.exit(0)

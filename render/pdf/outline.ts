import type { PdfFile } from './open-pdf'

/** Longest title that is kept. */
const TITLE = 120

/** The page that an entry of an outline leads to, counted from 0: by reference or by its number; -1 when it leads nowhere. */
async function pageAt(document: PdfFile, target: unknown): Promise<number> {
  if (typeof target === 'number') return target
  if (target === null || typeof target !== 'object') return -1
  return await document.getPageIndex(target as never).catch(() => -1)
}

/** Titles that the document's own outline gives to pages, by page counted from 1; the outermost entry of a page counts. */
export async function outlineTitles(document: PdfFile): Promise<ReadonlyMap<number, string>> {
  const titles = new Map<number, string>()
  type Entries = Awaited<ReturnType<PdfFile['getOutline']>>
  const visit = async (entries: Entries | null | undefined, depth: number): Promise<void> => {
    if (entries == null || depth > 4) return
    for (const entry of entries.slice(0, 2000)) {
      const dest: unknown = typeof entry.dest === 'string' ? await document.getDestination(entry.dest) : entry.dest
      const target: unknown = Array.isArray(dest) ? dest[0] : null
      const at = await pageAt(document, target)
      const title = entry.title.replace(/\s+/g, ' ').trim().slice(0, TITLE)
      if (at >= 0 && title !== '' && !titles.has(at + 1)) titles.set(at + 1, title)
    }
    for (const entry of entries.slice(0, 2000)) await visit(entry.items as Entries, depth + 1)
  }
  await visit(await document.getOutline().catch(() => null), 0)
  return titles
}

/**
 * Groups the pages of a document into slides: pages next to each other with the same label are the steps of one
 * slide, as overlay decks are made.
 * @param labels a label for each page, or null where the document has none
 * @param pages how many pages there are
 * @returns for each slide its pages in order, counted from 1
 */
export function groupPagesByLabel(labels: readonly string[] | null, pages: number): readonly (readonly number[])[] {
  const groups: number[][] = []
  for (let page = 1; page <= pages; page += 1) {
    const label = labels?.[page - 1] ?? ''
    const same = page > 1 && label !== '' && label === labels?.[page - 2]
    const last = groups.at(-1)
    if (same && last !== undefined) last.push(page)
    else groups.push([page])
  }
  return groups
}

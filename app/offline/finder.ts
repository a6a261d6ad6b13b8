import type { BundleTalk } from '@core/bundle'
import { hitsIn, saidWith, searchable } from '@core/screening'
import { part } from './page-parts'

function showHit(row: HTMLElement, hit: { readonly before: string; readonly words: string; readonly after: string } | undefined): void {
  const place = row.querySelector('.hit')
  if (place === null) return
  place.textContent = ''
  if (hit === undefined) return
  const mark = document.createElement('mark')
  mark.textContent = hit.words
  place.append(hit.before, mark, hit.after)
}

/** Adds a field that finds words in what is said, on slides and in notes at once. @returns the field */
export function addFinder(talk: BundleTalk): HTMLInputElement {
  const slides = searchable(talk.slides)
  const rows = [...document.querySelectorAll<HTMLElement>('#programme > li')]
  const lines = [...document.querySelectorAll<HTMLElement>('#said > li')]
  const slabs = [...document.querySelectorAll<HTMLElement>('.slab')]
  const found = part('found', HTMLParagraphElement)
  const field = document.createElement('input')
  field.type = 'search'
  field.placeholder = 'Find words'
  field.setAttribute('aria-label', 'Find words in what is said, on slides and in notes')
  const find = (): void => {
    const words = field.value.trim()
    const hits = new Map(hitsIn(slides, words).map((hit) => [String(hit.slide), hit]))
    const spoken = new Set(saidWith(talk.said, words))
    for (const row of rows) {
      const hit = hits.get(row.dataset['slide'] ?? '')
      row.hidden = words !== '' && hit === undefined
      showHit(row, hit)
    }
    for (const [n, slab] of slabs.entries()) slab.classList.toggle('found', hits.has(String(talk.visits[n]?.slide)))
    for (const [n, line] of lines.entries()) {
      const said = talk.said[n]
      line.hidden = words !== '' && (said === undefined || !spoken.has(said))
    }
    found.hidden = words === ''
    const [onSlides, inSaid] = [`${String(hits.size)} of ${String(slides.length)}`, `${String(spoken.size)} of ${String(talk.said.length)}`]
    found.textContent =
      hits.size + spoken.size === 0 ? `“${words}” is nowhere in this talk.` : `On ${onSlides} slides, in ${inSaid} sentences`
  }
  field.addEventListener('input', find)
  field.addEventListener('keydown', (event) => {
    if (event.key !== 'Escape') return
    field.value = ''
    find()
  })
  part('finder', HTMLSpanElement).append(field)
  return field
}

import { CONTENT_COLUMNS, CONTENT_ROWS, clearOf } from '@core/layout'
import { inlineRuns, plainText, wordsOf } from '@core/markup'
import { LAYOUTS_WITH_PICTURES, newSlide } from '@core/model'
import type { ComposedPicture, Composition, PageLink, Rect, Size, Slide, SlideId, Step } from '@core/model'
import { layOut } from './lay-out'
import type { LaidOut, Mark } from './laid-out'

/** Whether something is there once so many of the parts that come one by one are. */
export const isThere = (mark: Mark, shown: number): boolean => mark.part === null || mark.part < shown

/** Where a laid out slide has something to see. */
function contentOfMarks(laid: LaidOut, shown: number): string {
  const cells = new Float64Array(CONTENT_COLUMNS * CONTENT_ROWS)
  const column = laid.width / CONTENT_COLUMNS
  const row = laid.height / CONTENT_ROWS
  for (const mark of laid.marks) {
    if (!isThere(mark, shown)) continue
    const { box } = mark
    for (let y = Math.max(0, Math.floor(box.y / row)); y < Math.min(CONTENT_ROWS, (box.y + box.height) / row); y += 1) {
      for (let x = Math.max(0, Math.floor(box.x / column)); x < Math.min(CONTENT_COLUMNS, (box.x + box.width) / column); x += 1) {
        const wide = Math.min((x + 1) * column, box.x + box.width) - Math.max(x * column, box.x)
        const high = Math.min((y + 1) * row, box.y + box.height) - Math.max(y * row, box.y)
        const at = y * CONTENT_COLUMNS + x
        cells[at] = Math.min(1, (cells[at] ?? 0) + (Math.max(0, wide) * Math.max(0, high)) / (column * row))
      }
    }
  }
  return Array.from(cells, (share) => (share < 0.02 ? 0 : Math.ceil(share * 15)).toString(16)).join('')
}

const textOf = (composition: Composition): string =>
  [plainText(inlineRuns(composition.heading)), wordsOf(composition.body), composition.layout === 'pair' ? wordsOf(composition.second) : '']
    .filter((text) => text !== '')
    .join('\n')

/** Codes to scan that are there, as links to click on. */
function linksOf({ marks, width, height }: LaidOut, shown: number): readonly PageLink[] {
  return marks.flatMap((mark) => {
    if (mark.kind !== 'picture' || mark.leadsTo === undefined || !isThere(mark, shown)) return []
    const { x, y, width: wide, height: high } = mark.box
    return [{ address: mark.leadsTo, box: { x: x / width, y: y / height, w: wide / width, h: high / height } }]
  })
}

/**
 * The steps of a slide made here: one, or one more than it has parts that come one by one.
 * @param clear kept free for the face, in fractions of the slide
 */
export function stepsOf(composition: Composition, shape: Size, clear: Rect | null): readonly Step[] {
  const laid = layOut(composition, shape, clear)
  const text = textOf(composition)
  return Array.from({ length: laid.parts + 1 }, (_, shown): Step => {
    const links = linksOf(laid, shown)
    return {
      picture: { kind: 'composed', composition, shown, clear, size: shape },
      content: contentOfMarks(laid, shown),
      text,
      ...(links.length === 0 ? {} : { links }),
    }
  })
}

/** A slide made here with steps that follow from what it is made of, its framing and the deck's shape; any other as it is. */
export function recomposed(slide: Slide, shape: Size): Slide {
  if (slide.composition === null) return slide
  const steps = stepsOf(slide.composition, shape, clearOf(slide.composition.layout, slide.framing, shape))
  const heading = plainText(inlineRuns(slide.composition.heading))
  return { ...slide, steps, title: heading === '' ? slide.title : heading.slice(0, 200) }
}

/** Puts pictures on a slide made here, which gets a layout that has a place for them. */
export function withPictures(composition: Composition, pictures: readonly ComposedPicture[]): Composition {
  const beside = composition.body.trim() === '' ? 'plate' : 'plate-points'
  return {
    ...composition,
    pictures: [...composition.pictures, ...pictures],
    layout: LAYOUTS_WITH_PICTURES.has(composition.layout) ? composition.layout : beside,
  }
}

/** A slide that is made here, with nothing said of it. */
export const composedSlide = (id: SlideId, composition: Composition, title = ''): Slide => newSlide(id, { title, composition })

/** What a slide made here is until something is written on it. */
export const emptyComposition = (layout: Composition['layout'], theme: Composition['theme']): Composition => ({
  layout,
  theme,
  heading: '',
  body: '',
  second: '',
  pictures: [],
  reveal: 'together',
})

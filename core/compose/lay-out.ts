import { blocksOf, inlineRuns } from '@core/markup'
import type { Run } from '@core/markup'
import type { Composition, Rect, Size } from '@core/model'
import type { Font } from './faces'
import { flow, setParagraph } from './flow'
import { boxOfRect, overlaps, unitsOf } from './laid-out'
import type { Box, LaidOut, Mark, Slots } from './laid-out'

const MARGIN = 74
const GAP = 36
/** Text shrinks in these steps until it fits. */
const SIZES = [1, 0.92, 0.84, 0.77, 0.7, 0.63, 0.57, 0.5]

interface Setting {
  readonly units: Size
  readonly area: Box
  readonly face: Box | null
  readonly scale: number
}

/** A picture that is smaller than this in both directions, in layout units, has no room. */
const LEAST_PICTURE = 60

interface Draft {
  readonly marks: readonly Mark[]
  readonly slots: Slots
  readonly parts: number
  readonly bottom: number
}

const NO_SLOTS: Slots = { heading: null, body: null, second: null, pictures: null }

const display = (size: number): Font => ({ face: 'display', bold: true, italic: false, size })

function shifted(mark: Mark, by: number): Mark {
  const box = { ...mark.box, y: mark.box.y + by }
  return mark.kind === 'line' ? { ...mark, box, baseline: mark.baseline + by } : { ...mark, box }
}

const halves = (area: Box): readonly [Box, Box] => {
  const width = (area.width - GAP) / 2
  return [
    { ...area, width },
    { ...area, x: area.x + width + GAP, width },
  ]
}

/** The largest part of an area beside, above or under the face. */
function freeOf(area: Box, face: Box | null): Box {
  if (face === null || !overlaps(area, face)) return area
  const right = area.x + area.width
  const bottom = area.y + area.height
  const parts: readonly Box[] = [
    { ...area, width: face.x - GAP - area.x },
    { ...area, x: face.x + face.width + GAP, width: right - face.x - face.width - GAP },
    { ...area, height: face.y - GAP - area.y },
    { ...area, y: face.y + face.height + GAP, height: bottom - face.y - face.height - GAP },
  ]
  return parts.reduce((best, one) => (Math.max(0, one.width) * Math.max(0, one.height) > best.width * best.height ? one : best), {
    ...area,
    width: 0,
    height: 0,
  })
}

/** Pictures in a row or a grid, each as large as fits, keeping its shape. */
function pictures(composition: Composition, area: Box, firstPart: number, from = 0, to = composition.pictures.length): readonly Mark[] {
  const list = composition.pictures.slice(from, to)
  if (list.length === 0) return []
  const columns = Math.ceil(Math.sqrt(list.length * (area.width / Math.max(1, area.height)) * 0.75)) || 1
  const across = Math.min(list.length, Math.max(1, columns))
  const down = Math.ceil(list.length / across)
  const cell = { width: (area.width - GAP * (across - 1)) / across, height: (area.height - GAP * (down - 1)) / down }
  return list.map((picture, n): Mark => {
    const fit = Math.max(0, Math.min(cell.width / picture.size.width, cell.height / picture.size.height))
    const width = picture.size.width * fit
    const height = picture.size.height * fit
    const x = area.x + (n % across) * (cell.width + GAP) + (cell.width - width) / 2
    const y = area.y + Math.floor(n / across) * (cell.height + GAP) + (cell.height - height) / 2
    return {
      kind: 'picture',
      box: { x, y, width, height },
      asset: picture.asset,
      size: picture.size,
      ...(picture.leadsTo === undefined ? {} : { leadsTo: picture.leadsTo }),
      part: composition.reveal === 'together' ? null : firstPart + n,
    }
  })
}

function heading(
  runs: readonly Run[],
  size: number,
  { area, face }: Setting,
): { readonly marks: readonly Mark[]; readonly bottom: number; readonly slot: Box } {
  const set = setParagraph(runs, display(size), area.y, area, face, 'text', null)
  // Without a heading the text begins where it would stand; there is room for writing one above.
  const slot = runs.length === 0 ? { ...area, y: area.y * 0.12, height: area.y * 0.8 } : { ...area, height: set.bottom - area.y }
  return { marks: set.marks, bottom: set.bottom, slot }
}

const under = (area: Box, y: number): Box => ({ ...area, y, height: Math.max(0, area.y + area.height - y) })

function underHeading(
  composition: Composition,
  setting: Setting,
  fill: (area: Box) => Omit<Draft, 'slots'> & { readonly slots: Partial<Slots> },
): Draft {
  const runs = inlineRuns(composition.heading)
  const head = heading(runs, 62 * Math.max(0.7, setting.scale), setting)
  const start = runs.length === 0 ? setting.area.y : head.bottom + 40 * setting.scale
  const rest = fill(under(setting.area, start))
  return { ...rest, marks: [...head.marks, ...rest.marks], slots: { ...NO_SLOTS, heading: head.slot, ...rest.slots } }
}

/** Title and what stands under it, in the middle of the slide's height. */
function middle(composition: Composition, setting: Setting, size: number, colour: 'text' | 'soft'): Draft {
  const { area, face, scale } = setting
  const title = setParagraph(inlineRuns(composition.heading), display(size * scale), area.y, area, face, 'text', null)
  const bodyTop = title.bottom + 28 * scale
  const body = flow(blocksOf(composition.body), under(area, bodyTop), face, {
    size: 40 * scale,
    colour,
    byPart: composition.reveal !== 'together',
  })
  const height = body.bottom - area.y
  // Moved down, lines may meet the face that stood clear of them before: only as far as none does.
  let by = Math.max(0, (area.height - height) / 2)
  const all = [...title.marks, ...body.marks]
  if (face !== null) for (; by > 0 && all.some((mark) => overlaps(shifted(mark, by).box, face)); by -= 20);
  by = Math.max(0, by)
  return {
    marks: all.map((mark) => shifted(mark, by)),
    parts: body.parts,
    bottom: body.bottom,
    slots: {
      ...NO_SLOTS,
      heading: { ...area, y: area.y + by, height: title.bottom - area.y },
      body: { ...area, y: bodyTop + by, height: Math.max(60, body.bottom - bodyTop) },
    },
  }
}

function draft(composition: Composition, setting: Setting): Draft {
  const { area, face, scale } = setting
  const byPart = composition.reveal !== 'together'
  const style = { size: 46 * scale, colour: 'text' as const, byPart }
  const count = byPart ? composition.pictures.length : 0
  switch (composition.layout) {
    case 'opening':
      return middle(composition, setting, 104, 'soft')
    case 'claim':
      return middle(composition, setting, 84, 'soft')
    case 'voice':
      return middle(composition, setting, 72, 'soft')
    case 'bare':
      return { marks: [], slots: NO_SLOTS, parts: 0, bottom: 0 }
    case 'points':
      return underHeading(composition, setting, (rest) => {
        const set = flow(blocksOf(composition.body), rest, face, style)
        return { ...set, slots: { body: rest } }
      })
    case 'plate':
      return underHeading(composition, setting, (rest) => {
        const words = blocksOf(composition.body)
        const line = words.length === 0 ? 0 : 64 * scale
        const place = freeOf({ ...rest, height: rest.height - line }, face)
        const caption = under(area, area.y + area.height - line + 14)
        const set = flow(words, caption, face, { size: 32 * scale, colour: 'soft', byPart: false })
        return {
          marks: [...pictures(composition, place, 0), ...set.marks],
          parts: count,
          bottom: line === 0 ? 0 : set.bottom,
          slots: { pictures: place, body: line === 0 ? null : caption },
        }
      })
    case 'plate-points':
      return underHeading(composition, setting, (rest) => {
        const [left, right] = halves(rest)
        const faceLeft = face !== null && face.x + face.width / 2 < area.x + area.width / 2
        const [plate, text] = faceLeft ? [right, left] : [left, right]
        const set = flow(blocksOf(composition.body), text, face, style)
        const place = freeOf(plate, face)
        return {
          marks: [...pictures(composition, place, set.parts), ...set.marks],
          parts: set.parts + count,
          bottom: set.bottom,
          slots: { pictures: place, body: text },
        }
      })
    case 'pair':
      return underHeading(composition, setting, (rest) => {
        const [left, right] = halves(rest)
        const sides = [composition.body, composition.second].map((text, side) => {
          const place = side === 0 ? left : right
          return { text, place, set: flow(blocksOf(text), place, face, { ...style, size: 44 * scale }) }
        })
        let part = 0
        let picture = 0
        const marks: Mark[] = []
        const empty = sides.filter(({ text }) => text.trim() === '').length
        // Those that no empty side has room for stand under the words, the second side's first.
        const beyond = Math.max(0, composition.pictures.length - empty)
        const under2 = Math.ceil(beyond / 2)
        for (const [side, { text, place, set }] of sides.entries()) {
          const from = part
          const shared = side === 1 ? under2 : beyond - under2
          const own = text.trim() === '' ? 1 : shared
          const first = picture
          picture = Math.min(composition.pictures.length, picture + own)
          if (text.trim() === '' && picture > first) {
            marks.push(...pictures(composition, freeOf(place, face), from, first, picture))
            part += byPart ? 1 : 0
          } else {
            marks.push(...set.marks.map((mark) => (mark.part === null ? mark : { ...mark, part: mark.part + from })))
            part += set.parts
            marks.push(...pictures(composition, freeOf(under(place, set.bottom + GAP), face), part, first, picture))
            part += byPart ? picture - first : 0
          }
        }
        return { marks, parts: part, bottom: Math.max(...sides.map(({ set }) => set.bottom)), slots: { body: left, second: right } }
      })
  }
}

const picturesFit = ({ marks }: Pick<Draft, 'marks'>): boolean =>
  marks.every((mark) => mark.kind !== 'picture' || Math.max(mark.box.width, mark.box.height) >= LEAST_PICTURE)

/**
 * Lays out a slide made here: where every line, picture and bullet goes. Text flows round the face and shrinks until it
 * fits. The same on every machine, since it rests on the fonts' own figures.
 * @param shape of the slide
 * @param clear what is kept free for the face, in fractions of the slide; null for nothing
 */
export function layOut(composition: Composition, shape: Size, clear: Rect | null): LaidOut {
  const units = unitsOf(shape)
  const area: Box = { x: MARGIN, y: MARGIN * 0.9, width: units.width - 2 * MARGIN, height: units.height - 1.8 * MARGIN }
  const face = clear === null ? null : boxOfRect(clear, units)
  const bottom = area.y + area.height + 8
  let made: Draft | null = null
  for (const scale of SIZES) {
    made = draft(composition, { units, area, face, scale })
    if (made.bottom <= bottom && picturesFit(made)) break
  }
  const laid = made ?? { marks: [], slots: NO_SLOTS, parts: 0, bottom: 0 }
  return { ...units, marks: laid.marks, slots: laid.slots, parts: laid.parts, overfull: laid.bottom > bottom || !picturesFit(laid) }
}

import { INK_HEX } from '@core/ink'
import { INK_COLOURS, INK_WIDTHS, INK_WIDTH_NAMES, MARKER_BREADTH } from '@core/model'
import type { InkColour, InkPoint, InkTool, InkWidth, Ms, Size, Stroke } from '@core/model'
import { escapeMarkup } from './escape-markup'

/** A stroke with when it was begun, in ms of what it was drawn in; null: it lay there when that began. */
export interface TimedStroke {
  readonly stroke: Stroke
  readonly at: Ms | null
}

/** Height of a slide in the units in which its ink is written; its width follows from the deck's shape. */
const HEIGHT = 10_000

const brushName = (colour: InkColour, width: InkWidth, tool: InkTool): string => `${tool}-${width}-${colour}`

/** A brush for every way in which strokes are drawn. Its width is in the units of the points, as its height. */
function brush(colour: InkColour, width: InkWidth, tool: Exclude<InkTool, 'label'>): string {
  const breadth = INK_WIDTHS[width] * HEIGHT * (tool === 'marker' ? MARKER_BREADTH : 1)
  const property = (name: string, value: string): string => `<brushProperty name="${name}" value="${value}"/>`
  return (
    `<brush xml:id="${brushName(colour, width, tool)}">${property('width', String(Math.round(breadth)))}` +
    `${property('height', String(Math.round(breadth)))}${property('color', INK_HEX[colour])}` +
    `${property('tip', tool === 'marker' ? 'rectangle' : 'ellipse')}` +
    `${property('transparency', tool === 'marker' ? '0.6' : '0')}</brush>`
  )
}

const BRUSHES = INK_COLOURS.flatMap((colour) =>
  INK_WIDTH_NAMES.flatMap((width) => (['pen', 'marker'] as const).map((tool) => brush(colour, width, tool))),
).join('\n')

/** The channels of a point: place, pressure from 0 to 1, and ms since its stroke began. */
const FORMAT = `<traceFormat xml:id="points">
<channel name="X" type="integer" units="dev"/><channel name="Y" type="integer" units="dev"/>
<channel name="F" type="decimal" min="0" max="1"/><channel name="T" type="integer" units="ms"/>
</traceFormat>`

function trace({ stroke, at }: TimedStroke, wide: number): string {
  const tool = stroke.tool === 'marker' ? 'marker' : 'pen'
  const place = ({ x, y, p, dt }: InkPoint): string =>
    [Math.round(x * wide), Math.round(y * HEIGHT), Math.round(p * 1000) / 1000, dt].join(' ')
  const label = stroke.tool === 'label' ? `<annotation type="text">${escapeMarkup(stroke.text ?? '')}</annotation>\n` : ''
  const begun = at === null ? '' : ` timeOffset="${String(at)}"`
  const brushed = `brushRef="#${brushName(stroke.colour, stroke.width, tool)}"`
  const drawn = `<trace xml:id="s-${escapeMarkup(stroke.id)}" contextRef="#slide" ${brushed}${begun}>`
  const points = stroke.points.map(place).join(', ')
  const slide = `<annotation type="slide">${escapeMarkup(stroke.slide)}</annotation>`
  return `<traceGroup>\n${slide}\n${label}${drawn}${points}</trace>\n</traceGroup>`
}

/**
 * Ink as InkML (W3C Recommendation of 20 September 2011): a trace for each stroke, in order, with the place and time of every point.
 * @param shape of the deck: points are fractions of a slide, and are written in ten-thousandths of its height
 */
export function inkMl(strokes: readonly TimedStroke[], shape: Size): string {
  const wide = Math.round((HEIGHT * shape.width) / shape.height)
  return `<?xml version="1.0" encoding="UTF-8"?>
<ink xmlns="http://www.w3.org/2003/InkML">
<definitions>
${FORMAT}
${BRUSHES}
<timestamp xml:id="beginning" time="0"/>
<context xml:id="slide" traceFormatRef="#points" timestampRef="#beginning"/>
</definitions>
${strokes.map((stroke) => trace(stroke, wide)).join('\n')}
</ink>
`
}

import { describe, expect, it } from 'vitest'
import { isTimed, pointsOf, strokesOf } from './ink-ml'
import { parseXml } from './xml'

describe('pointsOf', () => {
  it('reads values by themselves and as first and second differences', () => {
    expect(pointsOf('10 20, 12 18, 15 15')).toEqual([
      [10, 20],
      [12, 18],
      [15, 15],
    ])
    expect(pointsOf("10 20,'2'-2,'3'-3")).toEqual([
      [10, 20],
      [12, 18],
      [15, 15],
    ])
    // Once said, a way of writing holds until another is.
    expect(pointsOf('0 0,\'1\'1,"1"2,0 0')).toEqual([
      [0, 0],
      [1, 1],
      [3, 4],
      [5, 7],
    ])
  })

  it('leaves out what is no point', () => {
    expect(pointsOf('nothing, 4, 5 6')).toEqual([[5, 6]])
  })
})

const brush = (id: string, properties: Readonly<Record<string, string>>): string => {
  const inside = Object.entries(properties).map(([name, value]) => `<inkml:brushProperty name="${name}" value="${value}"/>`)
  return `<inkml:brush xml:id="${id}">${inside.join('')}</inkml:brush>`
}
const drawnAt = (time: number, ref: string, points: string): string =>
  `<iact:action type="add" startTime="${String(time)}"><iact:actionData><inkml:trace brushRef="${ref}">${points}</inkml:trace>` +
  '</iact:actionData></iact:action>'
const INK =
  '<inkml:ink xmlns:inkml="http://www.w3.org/2003/InkML" xmlns:iact="http://schemas.microsoft.com/office/powerpoint/2014/inkAction">' +
  `<inkml:definitions>${brush('br0', { width: '0.05', color: '#C2452D' })}` +
  `${brush('br1', { width: '0.6', color: '#FFFF00', tip: 'rectangle' })}</inkml:definitions>` +
  `${drawnAt(2400, '#br1', '0 0, 100 50')}${drawnAt(900, '#br0', '50 25, 100 0')}</inkml:ink>`

describe('strokesOf', () => {
  const box = { x: 0.2, y: 0.4, w: 0.5, h: 0.2 }

  it('places a drawing where its box is, in order of its time, in the inks and tools that come closest', () => {
    const strokes = strokesOf(parseXml(INK), box)
    expect(strokes.map(({ at, tool, colour, width }) => [at, tool, colour, width])).toEqual([
      [900, 'pen', 'brick', 'fine'],
      [2400, 'marker', 'marigold', 'broad'],
    ])
    expect(strokes.map(({ points }) => points.map(({ x, y }) => [x, y]))).toEqual([
      [
        [expect.closeTo(0.45), expect.closeTo(0.5)],
        [expect.closeTo(0.7), expect.closeTo(0.4)],
      ],
      [
        [expect.closeTo(0.2), expect.closeTo(0.4)],
        [expect.closeTo(0.7), expect.closeTo(0.6)],
      ],
    ])
  })

  it('tells ink that carries its times from ink that lay there', () => {
    expect(isTimed(parseXml(INK))).toBe(true)
    expect(isTimed(parseXml(INK.replaceAll(/startTime="\d+"/g, '')))).toBe(false)
  })
})

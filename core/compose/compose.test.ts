import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { CONTENT_COLUMNS, usualInset } from '@core/layout'
import { LAYOUTS, asId } from '@core/model'
import type { Composition, Layout } from '@core/model'
import { slide } from '@core/testing'
import { boxOfRect, emptyComposition, layOut, overlaps, recomposed, stepsOf, textWidth, unitsOf, withPictures } from '.'

const WIDE = { width: 16, height: 9 }
const composed = (fields: Partial<Composition>): Composition => ({ ...emptyComposition('points', 'paper'), ...fields })
const word = fc.stringMatching(/^[a-zäöé]{1,14}$/)
const prose = fc.array(word, { minLength: 1, maxLength: 60 }).map((words) => words.join(' '))
const anyBody = fc
  .array(
    fc.oneof(
      prose,
      prose.map((text) => `- ${text}`),
      prose.map((text) => `> ${text}`),
    ),
    { maxLength: 6 },
  )
  .map((blocks) => blocks.join('\n\n'))
const anyShape = fc.constantFrom(WIDE, { width: 4, height: 3 }, { width: 1, height: 1 }, { width: 9, height: 16 })
const anyLayout = fc.constantFrom<Layout>(...LAYOUTS)

describe('a slide made here', () => {
  it('keeps its words clear of the face', () => {
    fc.assert(
      fc.property(anyLayout, anyShape, prose, anyBody, anyBody, (layout, shape, heading, body, second) => {
        const clear = usualInset(shape)
        const laid = layOut(composed({ layout, heading: heading.slice(0, 60), body, second }), shape, clear)
        const face = boxOfRect(clear, unitsOf(shape))
        // Where there is too much text for the slide nothing can be promised, and the person is told.
        if (!laid.overfull) for (const mark of laid.marks) if (mark.kind === 'line') expect(overlaps(mark.box, face)).toBe(false)
      }),
      { numRuns: 150 },
    )
  })

  it('has a code to scan as a link where it stands, once it is there', () => {
    const picture = { asset: asId<'asset'>('a'.repeat(64)), size: { width: 900, height: 900 }, alt: 'Code' }
    const code = { ...picture, leadsTo: 'https://harbour.example/s/key' }
    const steps = stepsOf({ ...withPictures(composed({ heading: 'Knots' }), [picture, code]), reveal: 'appear' }, WIDE, null)
    expect(steps.map(({ links }) => links?.length ?? 0)).toEqual([0, 0, 1])
    const { box, address } = steps[2]!.links![0]!
    expect(address).toBe(code.leadsTo)
    // As wide as high on a slide of 16 to 9.
    expect(box.w * 16).toBeCloseTo(box.h * 9, 6)
    expect([box.x > 0.4, box.x + box.w <= 1]).toEqual([true, true])
  })

  it('keeps its words on the slide, smaller when there are many, or says that there are too many', () => {
    fc.assert(
      fc.property(anyLayout, anyShape, anyBody, (layout, shape, body) => {
        const laid = layOut(composed({ layout, heading: 'Low water', body }), shape, null)
        if (laid.overfull) return
        for (const { box } of laid.marks) {
          expect(box.x).toBeGreaterThanOrEqual(0)
          expect(box.x + box.width).toBeLessThanOrEqual(laid.width + 1)
          expect(box.y + box.height).toBeLessThanOrEqual(laid.height + 1)
        }
      }),
      { numRuns: 150 },
    )
    const sizes = (count: number) =>
      layOut(
        composed({ body: Array.from({ length: count }, () => '- the tide comes and goes twice a day').join('\n') }),
        WIDE,
        null,
      ).marks.flatMap((mark) => (mark.kind === 'line' ? mark.runs.map((run) => run.font.size) : []))
    expect(Math.max(...sizes(14))).toBeLessThan(Math.max(...sizes(3)))
    expect(layOut(composed({ body: 'word '.repeat(1200) }), WIDE, null).overfull).toBe(true)
  })

  it('shows its points one a step, each with those before it, when they come by item', () => {
    const steps = stepsOf(
      composed({ heading: 'Knots', body: '- bowline\n- reef knot\n  - left over right\n- clove hitch', reveal: 'appear' }),
      WIDE,
      null,
    )
    expect(steps.map((step) => (step.picture.kind === 'composed' ? step.picture.shown : -1))).toEqual([0, 1, 2, 3])
    const filled = steps.map((step) => Array.from(step.content).filter((cell) => cell !== '0').length)
    expect([...filled].sort((a, b) => a - b)).toEqual(filled)
    expect(new Set(filled).size).toBe(4)
    expect(stepsOf(composed({ body: '- bowline\n- reef knot' }), WIDE, null).length).toBe(1)
  })

  it('counts pictures among what comes by item, in a grid that keeps their shape', () => {
    const picture = (name: string, width: number, height: number) => ({
      asset: asId<'asset'>(name.repeat(64)),
      size: { width, height },
      alt: '',
    })
    const plate = composed({ layout: 'plate', pictures: [picture('a', 400, 300), picture('b', 300, 400)], reveal: 'fade' })
    const laid = layOut(plate, WIDE, usualInset(WIDE))
    expect(laid.parts).toBe(2)
    const boxes = laid.marks.flatMap((mark) => (mark.kind === 'picture' ? [mark.box] : []))
    expect(boxes.map((box) => box.width / box.height)).toEqual([expect.closeTo(4 / 3), expect.closeTo(3 / 4)])
    expect(boxes.some((box) => overlaps(box, boxOfRect(usualInset(WIDE), unitsOf(WIDE))))).toBe(false)
  })

  it('says where its content is, and takes its title from its heading', () => {
    const made = recomposed({ ...slide('x'), composition: composed({ heading: 'The *old* pier', body: 'stands' }) }, WIDE)
    expect(made.title).toBe('The old pier')
    const rows = Array.from(
      { length: 18 },
      (_, row) => made.steps[0]?.content.slice(row * CONTENT_COLUMNS, (row + 1) * CONTENT_COLUMNS).replace(/0/g, '').length ?? 0,
    )
    expect(rows.slice(0, 6).some((count) => count > 0)).toBe(true)
    expect(rows.slice(9).every((count) => count === 0)).toBe(true)
  })

  it('sets right-to-left words from the right', () => {
    const [line] = layOut(composed({ body: 'גאות ושפל' }), WIDE, null).marks.filter((mark) => mark.kind === 'line')
    expect(line?.kind === 'line' && line.rtl).toBe(true)
    expect((line?.box.x ?? 0) + (line?.box.width ?? 0)).toBeCloseTo(unitsOf(WIDE).width - 74)
  })

  it('puts the marks of right-to-left items at the right, and none before a further paragraph of an item', () => {
    const marks = layOut(composed({ body: '- גאות\n- שפל' }), WIDE, null).marks
    const [dot] = marks.filter((mark) => mark.kind === 'fill')
    const [line] = marks.filter((mark) => mark.kind === 'line')
    expect(dot?.box.x ?? 0).toBeGreaterThan((line?.box.x ?? 0) + (line?.box.width ?? 0))
    expect(
      layOut(composed({ body: '1. one\n\n   more\n\n2. two' }), WIDE, null).marks.flatMap((mark) =>
        mark.kind === 'line' ? mark.runs.map((run) => run.text) : [],
      ),
    ).toEqual(['1.', 'one', 'more', '2.', 'two'])
  })

  it('begins no line with a stop or a closing bracket', () => {
    for (let n = 1; n < 60; n += 1) {
      const lines = layOut(composed({ body: `${'潮'.repeat(n)}。（${'水'.repeat(30)}）。` }), WIDE, null).marks.flatMap((mark) =>
        mark.kind === 'line' ? [mark.runs.map((run) => run.text).join('')] : [],
      )
      for (const line of lines) expect(line).not.toMatch(/^[。）]|（$/)
    }
  })

  it('says that it is overfull when a picture has no room left, and shows pictures that stand beside two columns of words', () => {
    const picture = { asset: asId<'asset'>('a'.repeat(64)), size: { width: 400, height: 300 }, alt: '' }
    const long = layOut(composed({ layout: 'plate', heading: 'low water '.repeat(40), pictures: [picture] }), WIDE, null)
    const drawn = long.marks.find((mark) => mark.kind === 'picture')
    expect(long.overfull || Math.max(drawn?.box.width ?? 0, drawn?.box.height ?? 0) >= 60).toBe(true)
    const pair = layOut(
      composed({ layout: 'pair', heading: 'Knots', body: 'left words', second: 'right words', pictures: [picture] }),
      WIDE,
      null,
    )
    expect(pair.overfull).toBe(false)
    const [shown] = pair.marks.filter((mark) => mark.kind === 'picture')
    expect(shown?.box.width ?? 0).toBeGreaterThan(200)
    for (const mark of pair.marks) if (mark.kind === 'line') expect(overlaps(mark.box, shown!.box)).toBe(false)
  })

  it('measures East Asian signs in code as wide as they are', () => {
    const code = { face: 'code', bold: false, italic: false, size: 40 } as const
    expect(textWidth('潮水', code)).toBeCloseTo(80)
    expect(textWidth('ab', code)).toBeLessThan(80)
  })

  it('breaks between East Asian signs and inside words that no line could hold', () => {
    const lines = (body: string) => layOut(composed({ body }), WIDE, null).marks.filter((mark) => mark.kind === 'line').length
    expect(lines('潮'.repeat(120))).toBeGreaterThan(1)
    expect(lines('x'.repeat(200))).toBeGreaterThan(1)
  })
})

describe('text widths', () => {
  it('grow with every sign and with the size, and add up', () => {
    fc.assert(
      fc.property(prose, fc.integer({ min: 10, max: 120 }), (text, size) => {
        const font = { face: 'read', bold: false, italic: false, size } as const
        expect(textWidth(`${text}m`, font)).toBeCloseTo(textWidth(text, font) + textWidth('m', font))
        expect(textWidth(text, { ...font, size: size * 2 })).toBeCloseTo(textWidth(text, font) * 2)
      }),
    )
  })
})

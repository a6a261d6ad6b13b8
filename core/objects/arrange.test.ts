import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { MOST_OBJECTS, NOTHING_DRAWN, asId } from '@core/model'
import type { Drawing, ObjectId, SlideObject } from '@core/model'
import type { ALIGNMENTS, ORDERS } from './arrange'
import { aligned, copied, movedBy, reordered, shiftedMotion, spread, withGroups, withMore, withStart, without } from './arrange'
import { newFreehand, newObject, newPicture } from './new-object'
import { snapped } from './snap'

const object = (id: string, x: number, y: number, w = 0.1, group: string | null = null): SlideObject => ({
  ...newObject(asId(id), 'box', { x: 0, y: 0 }),
  box: { x, y, w, h: 0.1 },
  group,
})
const drawing = (...objects: readonly SlideObject[]): Drawing => ({ ...NOTHING_DRAWN, objects })
const ids = (...names: readonly string[]): ReadonlySet<ObjectId> => new Set(names.map((name) => asId<'object'>(name)))
const order = ({ objects }: Drawing): string => objects.map(({ id }) => id).join('')
const round = (value: number): number => Number(value.toFixed(6))

describe('objects', () => {
  it('are laid along each other, and one alone along the slide', () => {
    const two = drawing(object('a', 0.1, 0.2), object('b', 0.5, 0.6, 0.2))
    const at = (by: (typeof ALIGNMENTS)[number]): readonly number[] =>
      aligned(two, ids('a', 'b'), by).objects.flatMap(({ box }) => [round(box.x), round(box.y)])
    expect(at('left')).toEqual([0.1, 0.2, 0.1, 0.6])
    expect(at('right')).toEqual([0.6, 0.2, 0.5, 0.6])
    expect(at('middle')).toEqual([0.35, 0.2, 0.3, 0.6])
    expect(at('bottom')).toEqual([0.1, 0.6, 0.5, 0.6])
    expect(aligned(two, ids('a'), 'centre').objects[0]?.box.y).toBeCloseTo(0.45)
  })

  it('are spread with the same room between them', () => {
    const three = drawing(object('a', 0, 0), object('b', 0.15, 0), object('c', 0.8, 0))
    expect(spread(three, ids('a', 'b', 'c'), 'across').objects.map(({ box }) => round(box.x))).toEqual([0, 0.4, 0.8])
    expect(spread(three, ids('a', 'b'), 'across')).toBe(three)
  })

  it('go before and behind each other; those that go keep their order', () => {
    const all = drawing(...'abcde'.split('').map((id) => object(id, 0, 0)))
    const to = (where: (typeof ORDERS)[number]): string => order(reordered(all, ids('b', 'd'), where))
    expect(to('front')).toBe('acebd')
    expect(to('back')).toBe('bdace')
    expect(to('forward')).toBe('acbde')
    expect(to('backward')).toBe('bdace')
  })

  it('of a group are chosen together, and copied into one of their own with their motions', () => {
    const grouped: Drawing = {
      ...drawing(object('a', 0, 0, 0.1, 'g'), object('b', 0, 0, 0.1, 'g'), object('c', 0, 0)),
      motions: [
        { id: asId('m'), object: asId('a'), step: 1, start: 'step', delay: 0, duration: 100, ease: 'calm', does: { kind: 'fades', to: 0 } },
      ],
    }
    expect([...withGroups(grouped, ids('a'))]).toEqual(['a', 'b'])
    let n = 0
    const { drawing: more, copies } = copied(grouped, ids('a', 'b'), () => `n${String((n += 1))}`)
    expect(copies.size).toBe(2)
    const [first, second] = more.objects.slice(3)
    expect(first?.group).toBe(second?.group)
    expect(first?.group).not.toBe('g')
    expect(more.motions.map((one) => one.object)).toEqual(['a', first?.id])
    expect(without(more, copies)).toEqual(grouped)
  })

  it('are no more than a slide takes', () => {
    const full = drawing(...Array.from({ length: MOST_OBJECTS }, (_, n) => object(String(n), 0, 0)))
    expect(withMore(full, [object('z', 0, 0)]).objects).toHaveLength(MOST_OBJECTS)
    expect(copied(full, ids('1'), () => 'x').drawing.objects).toHaveLength(MOST_OBJECTS)
  })

  it('come back when they are moved there and back', () => {
    const far = fc.double({ min: -1, max: 1, noNaN: true })
    fc.assert(
      fc.property(far, far, (x, y) => {
        const one = drawing(object('a', 0.25, 0.5))
        const back = movedBy(movedBy(one, ids('a'), { x, y }), ids('a'), { x: -x, y: -y })
        expect(back.objects[0]?.box.x).toBeCloseTo(0.25)
        expect(back.objects[0]?.box.y).toBeCloseTo(0.5)
      }),
    )
  })

  it('are made in their own shape: a picture in its own, a line as it was drawn', () => {
    const wide = { kind: 'picture', asset: asId<'asset'>('x'), size: { width: 400, height: 100 }, alt: '' } as const
    const { box } = newPicture(asId('p'), wide, { x: 0.5, y: 0.5 }, { width: 16, height: 9 })
    expect((box.w * 16) / (box.h * 9)).toBeCloseTo(4)
    const line = newFreehand(asId('l'), [
      { x: 0.2, y: 0.2 },
      { x: 0.4, y: 0.6 },
    ])
    expect([line.box.x, line.box.y, round(line.box.w), round(line.box.h)]).toEqual([0.2, 0.2, 0.2, 0.4])
    expect(newFreehand(asId('l'), [{ x: 0.2, y: 0.2 }]).box.w).toBeGreaterThan(0)
  })
})

describe('motions and steps', () => {
  it('are brought before each other within their step, and begin in one way', () => {
    const motions = ['m', 'n', 'o'].map((id, n) => ({
      id: asId<'motion'>(id),
      object: asId<'object'>('a'),
      step: n === 1 ? 2 : 1,
      start: 'step' as const,
      delay: 0,
      duration: 100,
      ease: 'calm' as const,
      does: { kind: 'fades' as const, to: 0 },
    }))
    const all = { ...drawing(object('a', 0, 0)), motions }
    expect(shiftedMotion(all, asId('o'), -1).motions.map(({ id }) => id)).toEqual(['o', 'm', 'n'])
    expect(shiftedMotion(all, asId('n'), -1)).toBe(all)
    const begun = withStart(withStart(all, 1, { after: 'begun', wait: 10 }), 1, { after: 'ended', wait: 20 })
    expect(begun.starts).toEqual([{ step: 1, after: 'ended', wait: 20 }])
    expect(withStart(begun, 1, null).starts).toEqual([])
  })
})

describe('snapping', () => {
  it('goes to the nearest edge or middle, and nowhere when none is near', () => {
    const near = { x: 0.01, y: 0.01 }
    const found = snapped({ x: 0.405, y: 0.2, w: 0.2, h: 0.1 }, [{ x: 0.1, y: 0.31, w: 0.2, h: 0.1 }], near)
    expect(round(found.x)).toBe(-0.005)
    expect(round(found.y)).toBe(0.01)
    expect(found.lines.map(({ along }) => along)).toEqual(['down', 'across'])
    expect(snapped({ x: 0.3, y: 0.22, w: 0.11, h: 0.13 }, [], near)).toEqual({ x: 0, y: 0, lines: [] })
  })
})

import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { clickStates, findingLines, listed, pathEnd, stateAfter } from '@core/office'
import type { OfficeEffect } from '@core/office'

const effect = (does: OfficeEffect['does'], target: string, more: Partial<OfficeEffect> = {}): OfficeEffect => ({
  target,
  does,
  soft: false,
  path: '',
  duration: 0,
  ...more,
})

describe('clickStates', () => {
  it('shows what has no entrance from the start, and the rest click by click', () => {
    const states = clickStates({
      opening: [],
      clicks: [[effect('enter', 'a', { soft: true })], [effect('enter', 'b'), effect('leave', 'a')], [effect('leave', 'c')]],
    })
    expect(states.map(({ hidden }) => [...hidden].sort())).toEqual([['a', 'b'], ['b'], ['a'], ['a', 'c']])
    expect(states.map(({ soft }) => soft)).toEqual([false, true, false, false])
  })

  it('has no state of its own for what comes by itself with the slide', () => {
    const states = clickStates({ opening: [effect('enter', 'a')], clicks: [[effect('enter', 'b')]] })
    expect(states.map(({ hidden }) => [...hidden])).toEqual([['b'], []])
  })

  it('takes a click that shows nothing new into the state before, and still counts it', () => {
    const states = clickStates({ opening: [], clicks: [[effect('play', 'a')], [effect('enter', 'b')], [effect('play', 'b')]] })
    expect(states.map(({ clicks }) => clicks)).toEqual([0, 2])
    expect([0, 1, 2, 3].map((clicks) => stateAfter(states, clicks))).toEqual([0, 0, 1, 1])
  })

  it('leaves what goes along a path where it arrives, path after path, and keeps the paths', () => {
    const move = (path: string): OfficeEffect => effect('move', 'a', { path, duration: 900 })
    const states = clickStates({
      opening: [],
      clicks: [[move('M 0 0 L 0.25 0 E')], [move('M 0 0 c 0 0 0 0 0 0.5')], [move('M 0 0 L 1 1 Z')]],
    })
    expect(states.map(({ moved }) => moved.get('a') ?? null)).toEqual([null, { x: 0.25, y: 0 }, { x: 0.25, y: 0.5 }, { x: 0.25, y: 0.5 }])
    expect(states[3]?.motions).toEqual([{ target: 'a', path: 'M 0 0 L 1 1 Z', duration: 900 }])
  })

  it('shows after all clicks what each target did last, whatever came before', () => {
    const effects = fc.array(fc.array(fc.tuple(fc.constantFrom('enter', 'leave'), fc.constantFrom('a', 'b', 'c')), { maxLength: 4 }), {
      maxLength: 8,
    })
    fc.assert(
      fc.property(effects, (clicks) => {
        const states = clickStates({
          opening: [],
          clicks: clicks.map((click) => click.map(([does, target]) => effect(does as 'enter', target))),
        })
        for (const target of ['a', 'b', 'c']) {
          const last = clicks.flat().findLast(([, one]) => one === target)
          expect(states.at(-1)?.hidden.has(target)).toBe(last?.[0] === 'leave')
        }
        // Two states in a row never look the same.
        expect(states.every((state, n) => n === 0 || [...state.hidden].join() !== [...(states[n - 1]?.hidden ?? [])].join())).toBe(true)
      }),
    )
  })
})

describe('pathEnd', () => {
  it('reads paths as the formats write them', () => {
    expect(pathEnd('M 0 0 L 0.1 0.2 E')).toEqual({ x: 0.1, y: 0.2 })
    expect(pathEnd('M 0.5 0.5 H 1 V 0.25')).toEqual({ x: 0.5, y: -0.25 })
    expect(pathEnd('M 0 0 C 0.1 0 0.2 0 0.3 0.1 E').x).toBeCloseTo(0.3)
    expect(pathEnd('m 0 0 l 0.1 0 0.1 0')).toEqual({ x: 0.2, y: 0 })
  })

  it('goes nowhere where there is nothing to read', () => {
    expect(pathEnd('')).toEqual({ x: 0, y: 0 })
    expect(pathEnd('away')).toEqual({ x: 0, y: 0 })
  })
})

describe('findingLines', () => {
  it('says once what several slides have, with their numbers', () => {
    const lines = findingLines([
      { kind: 'effect', slide: 3 },
      { kind: 'font', font: 'Harbour Sans', standIn: 'Carlito' },
      { kind: 'effect', slide: 1 },
      { kind: 'effect', slide: 2 },
      { kind: 'effect', slide: 2 },
      { kind: 'internet', slide: 5, host: 'films.example' },
    ])
    expect(lines.map(({ slides }) => slides)).toEqual([[1, 2, 3], [5], []])
    expect(lines[0]?.sentence).toMatch(/^Slides 1 to 3: /)
    expect(lines[1]?.sentence).toContain('films.example')
    expect(lines[2]?.sentence).toContain('Carlito stands in')
  })

  it('lists numbers as people do', () => {
    expect(listed([4])).toBe('4')
    expect(listed([1, 2])).toBe('1 and 2')
    expect(listed([1, 3, 4, 5, 9])).toBe('1, 3 to 5 and 9')
  })
})

import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { PLAIN_FRAMING, asId } from '@core/model'
import type { Cue, Stretch, StrokeId } from '@core/model'
import { SLIDES, anyStretch, film, slide, step, stretch, stroke } from '@core/testing'
import { indexFilm, sceneAt, snapshotAt } from '.'

/** What is on screen, found the slow way: from the opening on, every cue in turn. */
function replay(of: Stretch, at: number) {
  let { slide: on, step, blank, inset } = of.opening
  let spot: Extract<Cue, { kind: 'point' }> | null = null
  const lying = new Map<StrokeId, Extract<Cue, { kind: 'ink' }>>()
  for (const cue of of.cues) {
    if (cue.at > at) break
    if (cue.kind === 'show') [on, step] = [cue.slide, cue.step]
    if (cue.kind === 'point') spot = cue
    if (cue.kind === 'blank') blank = cue.on
    if (cue.kind === 'inset') inset = cue.on
    if (cue.kind === 'ink') lying.set(cue.stroke.id, cue)
    if (cue.kind === 'erase') lying.delete(cue.stroke)
    if (cue.kind === 'wipe') for (const [id, ink] of lying) if (ink.stroke.slide === cue.slide) lying.delete(id)
  }
  const ink = [...lying.values()]
    .filter((cue) => cue.stroke.slide === on)
    .map((cue) => {
      const length = cue.stroke.points.at(-1)?.dt ?? 0
      return { id: cue.stroke.id, elapsed: at >= cue.at + length ? null : at - cue.at }
    })
  const [from, to] = [spot?.path[0], spot?.path.at(-1)]
  const lasts = spot !== null && from !== undefined && to !== undefined && at < spot.at + to.dt
  const share = spot === null || to === undefined || to.dt === 0 ? 0 : (at - spot.at) / to.dt
  const x = lasts && !blank ? Math.round((from.x + (to.x - from.x) * share) * 1e6) : null
  return { slide: on, step, blank, inset: inset && !blank, ink: blank ? [] : ink, spot: x }
}

describe('sceneAt', () => {
  it('agrees with a naive replay of the cues at any time', () => {
    fc.assert(
      fc.property(anyStretch('s'), fc.double({ min: 0, max: 1, noNaN: true }), (of, share) => {
        const at = Math.floor(share * (of.length - 1))
        const scene = sceneAt(indexFilm(film(SLIDES, [of])), at)
        const slow = replay(of, at)
        expect(scene).not.toBeNull()
        expect({
          slide: scene?.slide,
          step: scene?.step,
          blank: scene?.shown === null,
          inset: scene?.inset !== null,
          ink: scene?.ink.map((drawn) => ({ id: drawn.stroke.id, elapsed: drawn.elapsed })),
          spot: scene?.spot == null ? null : Math.round(scene.spot.x * 1e6),
        }).toEqual(slow)
      }),
      { numRuns: 500 },
    )
  })

  it('goes on from a snapshot as it would have gone on by itself', () => {
    fc.assert(
      fc.property(
        anyStretch('s'),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (of, share, later) => {
          const cut = Math.floor(share * (of.length - 1))
          const drawing = of.cues.some((cue) => cue.kind === 'ink' && cue.at <= cut && cue.at + (cue.stroke.points.at(-1)?.dt ?? 0) > cut)
          fc.pre(!drawing)
          // What was pointed at before the cut has no place in what follows.
          const rest = {
            ...of,
            opening: snapshotAt(of, cut),
            length: of.length - cut,
            kept: of.length - cut,
            cues: of.cues.filter((cue) => cue.at > cut).map((cue) => ({ ...cue, at: cue.at - cut })),
          }
          const at = Math.floor(later * (rest.length - 1))
          const [whole, part] = [sceneAt(indexFilm(film(SLIDES, [of])), cut + at), sceneAt(indexFilm(film(SLIDES, [rest])), at)]
          expect([part?.slide, part?.step, part?.shown, part?.ink.map(({ stroke }) => stroke.id)]).toEqual([
            whole?.slide,
            whole?.step,
            whole?.shown,
            whole?.ink.map(({ stroke }) => stroke.id),
          ])
          expect(part?.inset === null).toBe(whole?.inset === null)
        },
      ),
      { numRuns: 500 },
    )
  })

  it('goes on over a pause with the ink that the next stretch opened with', () => {
    const one = asId<'slide'>('one')
    const lying = stroke('k', one, 500)
    const second = { ...stretch('b', 1000, one), opening: { slide: one, step: 0, blank: false, inset: true, ink: [lying] } }
    const index = indexFilm(film(SLIDES, [stretch('a', 1000, one, [{ kind: 'ink', at: 200, stroke: lying }]), second]))
    expect(sceneAt(index, 100)?.ink).toEqual([])
    expect(sceneAt(index, 450)?.ink).toEqual([{ stroke: lying, elapsed: 250 }])
    expect(sceneAt(index, 1200)?.ink).toEqual([{ stroke: lying, elapsed: null }])
    expect(sceneAt(index, 1200)?.voice).toEqual({ stretch: 'b', at: 200 })
  })

  it('shows the face where the slide is emptiest, and not where its framing is off', () => {
    const corner = Array.from({ length: 32 * 18 }, (_, cell) => (cell % 32 > 24 && cell > 9 * 32 ? 'f' : '0')).join('')
    const full = slide('full', 1, { steps: [step(1, corner)] })
    const off = slide('off', 1, { framing: { ...PLAIN_FRAMING, rect: { x: 0, y: 0, w: 0.2, h: 0.2 }, off: true } })
    const at = (of: typeof full) => sceneAt(indexFilm(film([of], [stretch('s', 1000, of.id)])), 500)?.inset
    expect(at(full)?.framing.rect.y).toBeLessThan(0.1)
    expect(at(off)).toBeNull()
  })

  it('holds its last moment past the end, and is nothing for an empty film', () => {
    const of = film(SLIDES, [stretch('s', 1000, asId('one'), [{ kind: 'show', at: 900, slide: asId('two'), step: 1 }])])
    expect(sceneAt(indexFilm(of), 99_000)).toMatchObject({ slide: 'two', step: 1 })
    expect(sceneAt(indexFilm(film(SLIDES, [])), 0)).toBeNull()
  })
})

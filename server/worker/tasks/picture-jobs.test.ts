import { describe, expect, it } from 'vitest'
import { USUAL_RECIPE, asId } from '@core/model'
import type { Cue } from '@core/model'
import { costOfSegment, renderPlan } from '@core/plan'
import type { RenderPlan } from '@core/plan'
import { indexFilm } from '@core/scene'
import { film, slide, stretch } from '@core/testing'
import { codingOf } from '@render/video'
import { pictureJobs } from './picture-jobs'

const FREE = codingOf('mp4', 'good', { kind: 'free' })
const SLIDES = 30

/** A talk of many slides with a line on every third, seven seconds each. */
function planOf(camera: boolean): RenderPlan {
  const slides = Array.from({ length: SLIDES }, (_, n) => slide(`s${String(n)}`, 1))
  const cues = slides.flatMap(({ id }, n): readonly Cue[] => [
    ...(n === 0 ? [] : [{ kind: 'show' as const, at: n * 7000, slide: id, step: 0 }]),
    ...(n % 3 === 0
      ? [
          {
            kind: 'ink' as const,
            at: n * 7000 + 3000,
            stroke: {
              id: asId<'stroke'>(`k${String(n)}`),
              slide: id,
              colour: 'brick' as const,
              width: 'fine' as const,
              pressure: false,
              points: [
                { dt: 0, x: 0.1, y: 0.1, p: 0.5 },
                { dt: 1500, x: 0.6, y: 0.4, p: 0.5 },
              ],
            },
          },
        ]
      : []),
  ])
  return renderPlan(indexFilm(film(slides, [stretch('s', SLIDES * 7000, asId('s0'), cues, { camera })])), USUAL_RECIPE)
}

describe('what a lane does at a time', () => {
  it('holds every part of the film once, several still ones or short ones with ink together', () => {
    const plan = planOf(false)
    const jobs = pictureJobs(plan, FREE, 2, 'long')
    expect(
      jobs
        .flat()
        .map(({ number }) => number)
        .sort((a, b) => a - b),
    ).toEqual(plan.segments.map((_, n) => n))
    for (const job of jobs) expect(new Set(job.map(({ segment }) => segment.kind)).size).toBe(1)
    const most = (kind: string): number => Math.max(...jobs.filter((job) => job[0]?.segment.kind === kind).map(({ length }) => length))
    expect([most('still'), most('moving')]).toEqual([10, 2])
  })

  it('leaves something for every lane where there is little', () => {
    const plan = planOf(false)
    const few = { ...plan, segments: plan.segments.filter(({ kind }) => kind === 'still').slice(0, 4) }
    expect(pictureJobs(few, FREE, 2, 'long').length).toBe(4)
    expect(pictureJobs(few, FREE, 1, 'long').length).toBe(2)
  })

  it('is one part where the face is seen, or the encoder is to spread its bits', () => {
    for (const [plan, coding] of [
      [planOf(true), FREE],
      [planOf(false), codingOf('mp4', 'good', { kind: 'rate', most: 900 })],
      [planOf(false), codingOf('webm', 'good', { kind: 'free' })],
    ] as const) {
      expect(pictureJobs(plan, coding, 2, 'long').every(({ length }) => length === 1)).toBe(true)
    }
  })

  it('comes first when it takes long, and last for those who help', () => {
    const whole = planOf(true)
    const plan = { ...whole, segments: whole.segments.map((segment, n) => (n % 3 === 0 ? { ...segment, frames: 12 } : segment)) }
    const costs = (first: 'long' | 'short'): readonly number[] =>
      pictureJobs(plan, FREE, 2, first).map((job) => job.reduce((cost, { segment }) => cost + costOfSegment(segment, plan), 0))
    const [long, short] = [costs('long'), costs('short')]
    expect(long[0]).toBeGreaterThan((long.at(-1) ?? 0) * 1.5)
    expect(short.at(-1)).toBeGreaterThan((short[0] ?? 0) * 1.5)
  })
})

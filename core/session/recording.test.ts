import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { asId } from '@core/model'
import { AT_REST, endsWithStep, stepRecording } from '@core/session'
import type { RecordingEffect, RecordingEvent, RecordingPlan, RecordingState } from '@core/session'

const FULL: RecordingPlan = { intent: { kind: 'replaceAll' }, mode: 'full' }
const RETAKE: RecordingPlan = { intent: { kind: 'retake', visit: asId('v') }, mode: 'full' }

const record = (plan: RecordingPlan): RecordingEvent => ({ kind: 'record', plan, leadIn: false, countdown: 3 })

/** Goes through events. @returns the last state, and all effects on the way */
function through(events: readonly RecordingEvent[], from: RecordingState = AT_REST): { state: RecordingState; effects: RecordingEffect[] } {
  let state = from
  const effects: RecordingEffect[] = []
  for (const event of events) {
    const next = stepRecording(state, event)
    state = next.state
    effects.push(...next.effects)
  }
  return { state, effects }
}

const kinds = (effects: readonly RecordingEffect[]): readonly string[] => effects.map(({ kind }) => kind)
const UNDER_WAY: readonly RecordingEvent[] = [record(FULL), { kind: 'counted' }, { kind: 'opened' }]

describe('a recording', () => {
  it('counts down, opens a stretch, is paused and gone on with, and is over when the server has all of it', () => {
    const { state, effects } = through([
      ...UNDER_WAY,
      { kind: 'pause', stamp: 900 },
      { kind: 'resume' },
      { kind: 'opened' },
      { kind: 'stop', stamp: null },
    ])
    expect(state.phase).toBe('stopping')
    expect(kinds(effects)).toEqual([
      ...['countDown', 'beginTake', 'openStretch'],
      ...['endStroke', 'closeStretch', 'openStretch'],
      ...['endStroke', 'closeStretch', 'stopTake'],
    ])
    expect(effects[4]).toEqual({ kind: 'closeStretch', stamp: 900 })
    expect(through([{ kind: 'finished' }], state).state.phase).toBe('after')
  })

  it('that is paused or stopped while its stretch opens is so, and the stretch closes as soon as it is open', () => {
    for (const [event, phase] of [
      [{ kind: 'pause', stamp: 5 }, 'paused'],
      [{ kind: 'stop', stamp: 5 }, 'stopping'],
      [{ kind: 'interrupted', by: { kind: 'micLost' } }, 'paused'],
    ] as const) {
      const { state, effects } = through([record(FULL), { kind: 'counted' }, event, { kind: 'opened' }])
      expect(state.phase).toBe(phase)
      expect(effects).toContainEqual({ kind: 'closeStretch', stamp: null })
    }
  })

  it('is not begun twice, nor while another is under way', () => {
    const { state } = through(UNDER_WAY)
    expect(stepRecording(state, record(FULL))).toEqual({ state, effects: [] })
    expect(stepRecording(state, { kind: 'rehearse' })).toEqual({ state, effects: [] })
    expect(stepRecording(state, { kind: 'rest' })).toEqual({ state, effects: [] })
  })

  it('ends with the last step where that is wanted, and always with a slide that is said again', () => {
    const { state } = through(UNDER_WAY)
    expect([endsWithStep(state, true, true), endsWithStep(state, false, true), endsWithStep(state, true, false)]).toEqual([
      true,
      false,
      false,
    ])
    const retake = through([record(RETAKE), { kind: 'counted' }, { kind: 'opened' }]).state
    expect(endsWithStep(retake, true, false)).toBe(true)
    expect(endsWithStep(through([{ kind: 'pause', stamp: null }], retake).state, true, true)).toBe(false)
  })

  it('goes back while it is paused, counts down to that place and goes on', () => {
    const paused = through([...UNDER_WAY, { kind: 'pause', stamp: null }]).state
    const { state, effects } = through([{ kind: 'goBack', at: 4200 }, { kind: 'wentBack', countdown: 3 }, { kind: 'counted' }], paused)
    expect(state).toMatchObject({ phase: 'opening', resumes: true })
    expect(kinds(effects)).toEqual(['goBackTo', 'countDown', 'openStretch'])
    expect(
      through(
        [
          { kind: 'goBack', at: 4200 },
          { kind: 'failed', begun: true },
        ],
        paused,
      ).state.phase,
    ).toBe('paused')
    expect(through([{ kind: 'goBack', at: 1 }, { kind: 'wentBack', countdown: 3 }, { kind: 'cancel' }], paused).state.phase).toBe('paused')
  })

  it('pauses without a voice or after a sleep, and goes on without a face or at another rate', () => {
    const asleep = through([...UNDER_WAY, { kind: 'interrupted', by: { kind: 'slept', awake: 77, asleep: 5000 } }])
    expect(asleep.state.phase).toBe('paused')
    expect(asleep.effects).toContainEqual({ kind: 'closeStretch', stamp: 77 })
    expect(through([...UNDER_WAY, { kind: 'interrupted', by: { kind: 'cameraLost' } }]).state.phase).toBe('recording')
    expect(kinds(through([...UNDER_WAY, { kind: 'interrupted', by: { kind: 'rateChanged' } }]).effects).slice(-2)).toEqual([
      'say',
      'openStretch',
    ])
  })

  it('that cannot begin is let go, and one that cannot go on stays paused', () => {
    const first = through([record(FULL), { kind: 'counted' }, { kind: 'failed', begun: false }])
    expect([first.state.phase, kinds(first.effects).at(-1)]).toEqual(['idle', 'dropTake'])
    const later = through([...UNDER_WAY, { kind: 'pause', stamp: null }, { kind: 'resume' }, { kind: 'failed', begun: true }])
    expect(later.state.phase).toBe('paused')
  })

  it('never goes on behind a pause: a stretch that opens all the same is closed', () => {
    const waits = through([...UNDER_WAY, { kind: 'pause', stamp: null }, { kind: 'resume' }]).state
    // The stretch before could not be closed; the one that was asked for opens after that.
    const { state, effects } = through([{ kind: 'failed', begun: true }, { kind: 'opened' }], waits)
    expect([state.phase, effects]).toEqual(['paused', [{ kind: 'closeStretch', stamp: null }]])
  })

  it('leaves a run-through by its end alone, paused or not', () => {
    const run = through([{ kind: 'rehearse' }, { kind: 'pause', stamp: null }])
    expect([run.state, kinds(run.effects)]).toEqual([{ phase: 'rehearsing', paused: true }, ['startRun', 'pauseRun']])
    expect(through([{ kind: 'resume' }, { kind: 'stop', stamp: null }], run.state)).toEqual({
      state: { phase: 'rehearsed' },
      effects: [{ kind: 'resumeRun' }, { kind: 'endRun' }],
    })
  })
})

/** What is really there: which take, how many of its stretches are open, and what was asked for and not yet done. */
class World {
  take: 'none' | 'open' | 'stopped' = 'none'
  open = 0
  begun = 0
  stopped = 0

  do(effect: RecordingEffect): void {
    switch (effect.kind) {
      case 'beginTake':
        expect(this.take, 'a take begins while another is there').not.toBe('open')
        this.take = 'open'
        this.begun += 1
        break
      case 'openStretch':
        expect(this.take, 'a stretch opens in no take').toBe('open')
        this.open = 1
        break
      case 'closeStretch':
        expect(this.take).toBe('open')
        this.open = 0
        break
      case 'goBackTo':
        expect(this.open, 'a take goes back while it is recorded').toBe(0)
        break
      case 'stopTake':
      case 'dropTake':
        expect(this.take).toBe('open')
        if (effect.kind === 'stopTake') expect(this.open, 'a take is stopped with a stretch open').toBe(0)
        this.open = 0
        this.take = 'stopped'
        this.stopped += 1
        break
      default:
    }
  }
}

const stamp = fc.option(fc.nat(10_000))
const anyEvent: fc.Arbitrary<RecordingEvent> = fc.oneof(
  fc.record({
    kind: fc.constant('record' as const),
    plan: fc.constantFrom(FULL, RETAKE),
    leadIn: fc.boolean(),
    countdown: fc.nat(3),
  }),
  fc.constantFrom<RecordingEvent>(
    { kind: 'rehearse' },
    { kind: 'counted' },
    { kind: 'cancel' },
    { kind: 'opened' },
    { kind: 'opened' },
    { kind: 'failed', begun: true },
    { kind: 'failed', begun: false },
    { kind: 'resume' },
    { kind: 'goBack', at: 10 },
    { kind: 'wentBack', countdown: 3 },
    { kind: 'sourceChanged' },
    { kind: 'interrupted', by: { kind: 'micLost' } },
    { kind: 'interrupted', by: { kind: 'cameraLost' } },
    { kind: 'interrupted', by: { kind: 'rateChanged' } },
    { kind: 'interrupted', by: { kind: 'slept', awake: 1, asleep: 9000 } },
    { kind: 'finished' },
    { kind: 'rest' },
  ),
  stamp.map((at) => ({ kind: 'pause', stamp: at }) as const),
  stamp.map((at) => ({ kind: 'stop', stamp: at }) as const),
)

describe('whatever happens to a recording, in whatever order', () => {
  it('records nothing twice, closes every stretch, and can always be stopped', () => {
    fc.assert(
      fc.property(fc.array(anyEvent, { maxLength: 60 }), (events) => {
        const world = new World()
        let state = AT_REST
        for (const event of events) {
          // A stretch that could not be opened is not.
          if (event.kind === 'failed' && state.phase === 'opening') world.open = 0
          const next = stepRecording(state, event)
          next.effects.forEach((effect) => {
            world.do(effect)
          })
          state = next.state
          const taken =
            ['opening', 'recording', 'paused', 'goingBack'].includes(state.phase) || (state.phase === 'countdown' && state.resumes)
          expect(world.take === 'open', `in ${state.phase}`).toBe(taken)
          expect(world.open === 1, `in ${state.phase}`).toBe(state.phase === 'opening' || state.phase === 'recording')
        }
        for (const event of [{ kind: 'stop', stamp: null }, { kind: 'finished' }] as const) {
          const next = stepRecording(state, event)
          next.effects.forEach((effect) => {
            world.do(effect)
          })
          state = next.state
        }
        expect(['idle', 'after', 'rehearsed']).toContain(state.phase)
        expect([world.begun - world.stopped, world.open]).toEqual([0, 0])
      }),
      { numRuns: 2000 },
    )
  })
})

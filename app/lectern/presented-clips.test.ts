import { computed, ref, shallowRef } from 'vue'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import type { Cue, Slide } from '@core/model'
import { clip, slide } from '@core/testing'

vi.stubGlobal('ref', ref)
vi.stubGlobal('computed', computed)
vi.stubGlobal('shallowRef', shallowRef)
const [{ lecternScreen }, { presentedClips, startedIn }] = await Promise.all([import('./lectern-screen'), import('./presented-clips')])

const [byClick, byItself] = [clip('a', 4000), clip('b', 3000, { start: 'step', step: 1 })]
const one = slide('one', 2, { clips: [byClick, byItself] })
const two = slide('two')

/** A Lectern with a take whose time is the page's clock. */
function lectern() {
  const cues: Cue[] = []
  const { screen, note, put } = lecternScreen((make, stamp) => cues.push(make(stamp)))
  const up = shallowRef<Slide | null>(one)
  const clips = presentedClips({ note, put, screen, slide: up })
  const show = (to: Slide, step: number, stamp: number): void => {
    up.value = to
    note((at) => ({ kind: 'show', at, slide: to.id, step }), stamp)
    clips.arrived(stamp)
  }
  show(one, 0, 0)
  const at = (stamp: number) => clips.shown(stamp).map((scene) => [scene.clip.id, scene.at, scene.playing])
  return { cues, clips, show, at }
}

describe('clips while they are presented', () => {
  let desk = lectern()
  beforeEach(() => {
    desk = lectern()
  })

  it('wait for a click, play from then on, and are halted, skipped and begun again where they are', () => {
    expect(desk.clips.waiting()).toBe(byClick)
    desk.clips.toggle(byClick, 1000)
    expect(desk.clips.waiting()).toBeNull()
    expect(desk.at(1500)).toEqual([['a', 500, true]])
    desk.clips.toggle(byClick, 2000)
    expect(desk.at(9000)).toEqual([['a', 1000, false]])
    desk.clips.toggle(byClick, 9000)
    desk.clips.skip(byClick, 9500)
    expect(desk.at(9600)).toEqual([['a', 4000, false]])
    desk.clips.toggle(byClick, 9700)
    expect(desk.at(9800)).toEqual([['a', 100, true]])
    expect(desk.cues.filter(({ kind }) => kind === 'clip')).toEqual([
      { kind: 'clip', at: 1000, clip: 'a', place: 0, playing: true },
      { kind: 'clip', at: 2000, clip: 'a', place: 1000, playing: false },
      { kind: 'clip', at: 9000, clip: 'a', place: 1000, playing: true },
      { kind: 'clip', at: 9500, clip: 'a', place: 4000, playing: false },
      { kind: 'clip', at: 9700, clip: 'a', place: 0, playing: true },
    ])
  })

  it('begin with their step, and are over when it is gone back from or the slide goes', () => {
    desk.show(one, 1, 1000)
    expect(desk.at(1500)).toEqual([
      ['a', 0, false],
      ['b', 500, true],
    ])
    desk.show(one, 0, 2000)
    desk.show(one, 1, 3000)
    // It was shown before: whoever comes back to it starts it by hand.
    expect(desk.at(3500).at(-1)).toEqual(['b', 0, false])
    desk.show(two, 0, 4000)
    desk.show(one, 1, 5000)
    expect(desk.at(5200).at(-1)).toEqual(['b', 200, true])
  })

  it('stand while nothing is recorded, and go on with the next stretch, which opens with them', () => {
    desk.clips.toggle(byClick, 1000)
    desk.clips.rest(2500)
    expect(desk.at(8000)).toEqual([['a', 1500, false]])
    expect(desk.clips.opening(9000)).toEqual([{ clip: 'a', at: 0, place: 1500, playing: true }])
    expect(desk.at(9400)).toEqual([['a', 1900, true]])
    // A stretch that takes over without a pause has them where they are.
    expect(desk.clips.opening(9500)).toEqual([{ clip: 'a', at: 0, place: 2000, playing: true }])
  })

  it('begin anew with a take, and are where they were when it goes back', () => {
    desk.clips.toggle(byClick, 1000)
    desk.clips.begin()
    expect(desk.clips.opening(3000)).toEqual([])
    desk.clips.standAt([{ clip: byClick.id, at: 0, place: 700, playing: true }])
    expect(desk.at(4000)).toEqual([['a', 700, false]])
    desk.clips.opening(5000)
    expect(desk.at(5300)).toEqual([['a', 1000, true]])
    expect(startedIn(desk.clips.shown(5300))).toEqual([{ clip: 'a', at: 0, place: 1000, playing: true }])
  })
})

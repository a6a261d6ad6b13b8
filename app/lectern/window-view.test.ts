import { computed, shallowRef } from 'vue'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { asId } from '@core/model'
import type { Slide } from '@core/model'
import { clip, slide } from '@core/testing'
import type { FittedWindow, ShownWindow, TakeRecorder } from '~/capture'
import type { DeckPosition } from './deck-position'

vi.stubGlobal('shallowRef', shallowRef)
const { windowView } = await import('./window-view')

const [one, two] = [slide('one', 3), slide('two')]
const made = slide('window')
const WINDOW = { name: 'Tide tables' } as FittedWindow

/** A Lectern on the second step of its first slide, with a take. @param saves whether a slide for a window can be saved */
function lectern(saves = true) {
  const up = shallowRef<DeckPosition>({ slide: one, step: 1 })
  const recorded: (ShownWindow | null)[] = []
  const said: unknown[] = []
  const ended = shallowRef<(() => void) | null>(null)
  const view = windowView({
    held: shallowRef<FittedWindow | null>(WINDOW),
    ended,
    take: shallowRef({
      showWindow: (window: ShownWindow | null) => {
        recorded.push(window)
        return Promise.resolve()
      },
    } as unknown as TakeRecorder),
    fail: (error) => said.push(error),
    slide: computed<Slide | null>(() => up.value.slide),
    step: computed(() => up.value.step),
    next: shallowRef<DeckPosition | null>({ slide: two, step: 0 }),
    show: (target, stamp) => {
      up.value = target
      view.arrived(target.slide.id, stamp)
    },
    makeSlide: () => Promise.resolve(saves ? made : null),
  })
  return { view, up, recorded, said, ended }
}

describe('a window while it is presented', () => {
  let desk = lectern()
  beforeEach(() => {
    desk = lectern()
  })

  it('is a slide of its own, recorded as long as it is up, and leads back to where the presenter was', async () => {
    await desk.view.showIt(1000)
    expect(desk.up.value.slide).toBe(made)
    expect(desk.recorded).toEqual([{ window: WINDOW, slide: made.id }])
    desk.view.leave(2000)
    expect(desk.up.value).toEqual({ slide: one, step: 1 })
    expect(desk.recorded.at(-1)).toBeNull()
    expect(desk.view.shown.value).toBeNull()
  })

  it('leads on to the next step of that slide before anything else', async () => {
    await desk.view.showIt(1000)
    expect(desk.view.following()).toEqual({ slide: one, step: 2 })
    desk.up.value = { slide: one, step: 2 }
    desk.view.arrived(one.id, 1500)
    expect(desk.view.following()).toEqual({ slide: two, step: 0 })
  })

  it('that was in the deck before is shown where it is', async () => {
    const again = slide('again', 1, { clips: [clip('w', 4000, { captured: true })] })
    desk.up.value = { slide: again, step: 0 }
    await desk.view.showIt(1000)
    expect(desk.recorded).toEqual([{ window: WINDOW, slide: again.id }])
    desk.view.leave(2000)
    expect(desk.up.value.slide).toBe(two)
  })

  it('is not shown where its slide cannot be saved, and says so when it is closed while it is shown', async () => {
    const away = lectern(false)
    await away.view.showIt(1000)
    expect([away.up.value.slide, away.recorded.length]).toEqual([one, 0])
    desk.ended.value?.()
    expect(desk.said).toEqual([])
    await desk.view.showIt(1000)
    desk.ended.value?.()
    expect(String(desk.said[0])).toMatch(/was closed/)
    // What it looked like last stays until the presenter goes on.
    expect(desk.view.shown.value?.slide).toBe(asId('window'))
  })
})

import { defineStore } from 'pinia'
import { MOST_COVERED, coveredShare, framingOf } from '@core/layout'
import { plannedTime } from '@core/pace'
import type { Slide, SlideId } from '@core/model'
import { useTalk } from './talk'

export const VIEWS = ['all', 'longest', 'unwritten', 'covered', 'skipped'] as const
/** Which slides the run sheet shows, and in which order. */
export type SheetView = (typeof VIEWS)[number]

/** The run sheet: what of the deck it shows, and which slides are picked to be changed together. */
export const useSheet = defineStore('sheet', () => {
  const talk = useTalk()
  const view = ref<SheetView>('all')
  const picked = ref<ReadonlySet<SlideId>>(new Set())
  /** An import of which is shown once more what came of it. */
  const report = ref<string | null>(null)
  /** What a further pick with Shift counts from. */
  let anchor: SlideId | null = null

  const shape = computed(() => talk.talk?.shape ?? { width: 16, height: 9 })
  const covered = (slide: Slide): number => coveredShare(slide, framingOf(slide, shape.value), shape.value)

  const rows = computed<readonly Slide[]>(() => {
    const { slides } = talk
    switch (view.value) {
      case 'all':
        return slides
      case 'longest':
        return slides.filter((slide) => !slide.skip).toSorted((a, b) => plannedTime(b, talk.speaker) - plannedTime(a, talk.speaker))
      case 'unwritten':
        return slides.filter((slide) => slide.notes.trim() === '')
      case 'covered':
        return slides.filter((slide) => covered(slide) > MOST_COVERED)
      case 'skipped':
        return slides.filter((slide) => slide.skip)
    }
  })
  const numbers = computed(() => new Map(talk.slides.map((slide, n) => [slide.id, n + 1])))
  /** Picked slides that are still there, in deck order. */
  const chosen = computed(() => talk.slides.filter((slide) => picked.value.has(slide.id)))
  /** What a change in the run sheet or on the bench is about: the picked slides, or the one that is open. */
  const concerned = computed<readonly Slide[]>(() => {
    if (chosen.value.length > 1) return chosen.value
    return talk.slide === null ? [] : [talk.slide]
  })

  /** Picks a slide as a click does. */
  function pick(id: SlideId, how: { readonly more: boolean; readonly range: boolean }): void {
    talk.select(id)
    if (how.range && anchor !== null) {
      const order = rows.value.map((slide) => slide.id)
      const [from, to] = [order.indexOf(anchor), order.indexOf(id)].sort((a, b) => a - b)
      picked.value = new Set([...picked.value, ...order.slice(from, (to ?? 0) + 1)])
      return
    }
    anchor = id
    if (!how.more) {
      picked.value = new Set()
      return
    }
    const next = new Set(picked.value)
    if (next.has(id)) next.delete(id)
    else next.add(id)
    picked.value = next
  }

  const pickAll = (): void => {
    picked.value = new Set(rows.value.map((slide) => slide.id))
  }
  const pickNone = (): void => {
    picked.value = new Set()
  }

  watch(
    () => talk.talk?.id,
    () => {
      picked.value = new Set()
      view.value = 'all'
      anchor = null
      report.value = null
    },
  )

  return { view, picked, report, rows, numbers, chosen, concerned, shape, covered, pick, pickAll, pickNone }
})

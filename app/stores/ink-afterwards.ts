import { defineStore } from 'pinia'
import type { AddedInk, InkColour, InkWidth, Ms, StrokeId, VisitId } from '@core/model'
import type { InkChange } from '@core/programme'
import { roomToShift } from '@core/scene'
import { useProgrammeEdits } from './programme-edits'
import { useTalk } from './talk'

/** Ink in Review: strokes that are chosen on the picture, and what is drawn on it now. */
export const useInkAfterwards = defineStore('ink-afterwards', () => {
  const programmeEdits = useProgrammeEdits()
  const talk = useTalk()
  /** What the hand holds; null: nothing, and a click chooses. */
  const pen = ref<'pen' | 'marker' | null>(null)
  const colour = ref<InkColour>('brick')
  const width = ref<InkWidth>('fine')
  const chosen = shallowRef<{ readonly visit: VisitId; readonly strokes: readonly StrokeId[] } | null>(null)
  /** What was drawn and is not in the film yet. */
  const fresh = shallowRef<readonly AddedInk[]>([])

  const choose = (visit: VisitId, strokes: readonly StrokeId[]): void => {
    chosen.value = strokes.length === 0 ? null : { visit, strokes }
  }
  const letGo = (): void => {
    chosen.value = null
  }

  async function change(what: InkChange): Promise<void> {
    const { value } = chosen
    if (value === null) return
    if (what.kind === 'delete') letGo()
    await programmeEdits.edit({ kind: 'ink', ...value, change: what })
  }
  const remove = (): Promise<void> => change({ kind: 'delete' })
  const recolour = (to: InkColour): Promise<void> => change({ kind: 'colour', colour: to })
  /** They stop at their recording's beginning, and before they are wiped off. */
  function shift(by: Ms): Promise<void> {
    const { earlier, later } = roomToShift(talk.film?.stretches ?? [], new Set(chosen.value?.strokes))
    return change({ kind: 'shift', by, ...(Number.isFinite(earlier) ? { most: { earlier, later: Math.floor(later) } } : {}) })
  }

  async function draw(ink: AddedInk): Promise<void> {
    fresh.value = [...fresh.value, ink]
    await programmeEdits.edit({ kind: 'draw', ink })
    fresh.value = fresh.value.filter((one) => one !== ink)
  }

  watch(
    () => talk.talk?.id,
    () => {
      pen.value = null
      letGo()
    },
  )
  return { pen, colour, width, chosen, fresh, choose, letGo, remove, recolour, shift, draw }
})

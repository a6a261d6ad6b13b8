import { fitTo, leastTime } from '@core/pace'
import type { FitStep } from '@core/pace'
import type { Ms } from '@core/model'
import { useSaid } from '~/stores/said'
import { useTalk } from '~/stores/talk'

/** What a step of the fit does, in words. */
export function fitSaying(step: FitStep): string {
  const places = step.places === 1 ? 'one place' : `${String(step.places)} places`
  switch (step.kind) {
    case 'pauses':
      return `Pauses down to ${(step.to / 1000).toFixed(1)} s, in ${places}`
    case 'ends':
      return `Slack where slides come and go down to ${(step.to / 1000).toFixed(1)} s, in ${places}`
    case 'slips':
      return `Without slips: what was begun again, fillers and hesitations, in ${places}`
    case 'tempo':
      return `Everything ${((step.to - 1) * 100).toFixed(1)}% faster, at the same pitch`
    case 'optional':
      return `Without the slides that are optional or skipped by now, ${places}`
  }
}

/** How the open talk is brought to a limit; null without a recording or a limit. */
export function useFitPlan(limit: () => Ms | null) {
  const talk = useTalk()
  const said = useSaid()
  const optional = computed(() => new Set(talk.slides.filter((slide) => slide.optional || slide.skip).map((slide) => slide.id)))
  return computed(() => {
    const most = limit()
    return talk.index === null || most === null
      ? null
      : fitTo(talk.index.film, talk.film?.peaks ?? {}, most, leastTime, optional.value, said.slips)
  })
}

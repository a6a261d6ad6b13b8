import { useEventListener, useIntervalFn } from '@vueuse/core'
import type { Ref } from 'vue'
import { NOTHING_WATCHED, partAt, playedAt, report, wentTo } from '@core/screening'
import type { FilmPart, WatchLog } from '@core/screening'
import type { Ms } from '@core/model'
import type { ScreeningView } from '@contracts'

/** So often it is told how far somebody is, in ms. */
const EVERY = 30_000
/** Less far back is no going back, in ms. */
const JUMP: Ms = 600

/**
 * Counts how a talk is watched on this page: which parts are played, gone back to, and left at. Nothing that is told says who it was.
 * @param key of the page
 */
export function useWatched(key: string, view: ScreeningView, at: Readonly<Ref<Ms>>, playing: Readonly<Ref<boolean>>): void {
  let log: WatchLog = NOTHING_WATCHED
  let told: WatchLog = NOTHING_WATCHED
  watch(at, (now, before) => {
    if (now < before - JUMP) log = wentTo(log, view.visits, before, now)
    if (playing.value) log = playedAt(log, view.visits, now, view.length)
  })

  function tell(left: FilmPart | null): void {
    const said = report(log, told, left)
    if (said.report === null) return
    // It goes out also while the page goes.
    const body = new Blob([JSON.stringify(said.report)], { type: 'application/json' })
    if (!navigator.sendBeacon(`/api/screenings/${key}/watched`, body)) return
    log = said.log
    told = said.log
  }
  useIntervalFn(() => {
    if (document.visibilityState === 'visible') tell(null)
  }, EVERY)
  const go = (): void => {
    tell(partAt(view.visits, at.value))
  }
  useEventListener('pagehide', go)
  useEventListener(
    () => (import.meta.client ? document : null),
    'visibilitychange',
    () => {
      if (document.visibilityState === 'hidden') go()
    },
  )
}

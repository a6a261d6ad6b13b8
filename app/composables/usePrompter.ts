import type { Ref } from 'vue'
import { atFirstLine, atLine, followed, movedByRate, scriptOf, setRight } from '@core/pace'
import type { Reading } from '@core/pace'
import type { SpokenLine } from '@core/markup'
import { NOTHING_HEARD, listened } from '@core/voice'
import type { LevelBlock } from '@core/voice'
import { useDevices } from '~/stores/devices'
import { usePreferences } from '~/stores/preferences'
import { useLectern } from '~/stores/lectern'
import { useTalk } from '~/stores/talk'

/** How often notes that move by themselves are moved, in ms. */
const BEAT = 100

/** Keeps the line that is due: by hand, at the presenter's rate, or with the voice. @param lines of the notes of the slide that is up */
export function usePrompter(lines: Ref<readonly SpokenLine[]>) {
  const lectern = useLectern()
  const devices = useDevices()
  const preferences = usePreferences()
  const talk = useTalk()
  const script = computed(() => scriptOf(lines.value))
  const reading = shallowRef<Reading>(atFirstLine(talk.speaker.wordsPerMinute))
  const due = computed(() => reading.value.line)
  /** As far as it was heard in this run, a reader's rate holds for the next slide too. */
  watch(
    () => lectern.slide?.id,
    () => {
      reading.value = atFirstLine(reading.value.wordsPerMinute)
    },
  )
  watch(
    () => lectern.step,
    (now, before) => {
      if (preferences.now.moves === 'voice' && now > before) reading.value = setRight(script.value, reading.value)
    },
  )

  let hearing = NOTHING_HEARD
  let heardAt = 0
  function hear(block: LevelBlock): void {
    const before = hearing
    hearing = listened(hearing, block.rms, block.at)
    const dt = Math.min(200, block.at - heardAt)
    heardAt = block.at
    if (preferences.now.moves !== 'voice' || !lectern.live || lectern.muted) return
    const silence = hearing.speaking && !before.speaking ? block.at - before.loud : null
    reading.value = followed(script.value, reading.value, dt, hearing.speaking, silence)
  }
  const unsubscribe = devices.listen(hear)
  const timer = setInterval(() => {
    if (preferences.now.moves === 'rate' && lectern.live)
      reading.value = movedByRate(script.value, { ...reading.value, wordsPerMinute: talk.speaker.wordsPerMinute }, BEAT)
  }, BEAT)
  onBeforeUnmount(() => {
    unsubscribe()
    clearInterval(timer)
  })

  const goTo = (line: number): void => {
    reading.value = atLine(script.value, reading.value, line)
  }
  return {
    due,
    goTo,
    move: (by: number): void => {
      goTo(due.value + by)
    },
  }
}

import { defineStore } from 'pinia'
import { chooseWindow, fitWindow, openPracticeWindow } from '~/capture'
import type { FittedWindow } from '~/capture'
import { sentenceOf } from '~/client'
import { useDevices } from './devices'

const NONE_CHOSEN =
  'No window was chosen. If the browser did not ask, let it see the screen: beside the address, and in the settings of this computer.'

/** The window that is held ready, or shown, at the Lectern. */
export const useOpenWindow = defineStore('open-window', () => {
  const devices = useDevices()
  const held = shallowRef<FittedWindow | null>(null)
  /** Whether it is being asked for, or tried. */
  const opening = ref(false)
  /** Whether it is being asked which one. */
  const asking = ref(false)
  const trouble = ref<string | null>(null)
  /** Told when it was closed, there or by the browser. */
  const ended = shallowRef<(() => void) | null>(null)
  let trial = new AbortController()

  function close(): void {
    trial.abort()
    held.value?.stop()
    held.value = null
  }

  /**
   * Opens a window in the place of the one that is held.
   * @param how one that is chosen, or the practice window
   * @param tried whether there is time to try in which size it can be recorded
   * @returns whether there is one now
   */
  async function open(how: 'choose' | 'practice', tried: boolean): Promise<boolean> {
    if (opening.value) return false
    opening.value = true
    trouble.value = null
    try {
      const opened = how === 'choose' ? await chooseWindow() : openPracticeWindow()
      if (opened === null) {
        trouble.value = NONE_CHOSEN
        return false
      }
      close()
      trial = new AbortController()
      const fitted = await fitWindow(opened, devices.stream, tried, trial.signal)
      held.value = fitted
      fitted.picture.addEventListener('ended', () => {
        if (held.value !== fitted) return
        close()
        ended.value?.()
      })
      return true
    } catch (error) {
      trouble.value = sentenceOf(error)
      return false
    } finally {
      opening.value = false
    }
  }

  return { held, opening, asking, trouble, ended, open, close }
})

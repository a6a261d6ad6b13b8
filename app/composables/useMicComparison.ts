import { VoiceMeter, betterVoice } from '@core/voice'
import type { VoiceFacts } from '@core/voice'
import { openMic, recordTogether } from '~/capture'
import { sentenceOf } from '~/client'
import { nameOfDevice } from '~/devices'
import { useDevices } from '~/stores/devices'
import { usePreferences } from '~/stores/preferences'

/** How long a sentence may take, in ms. */
const SENTENCE = 6000

/** A microphone, and what it heard. */
export interface HeardMic {
  readonly id: string
  readonly name: string
  readonly facts: VoiceFacts
  /** Address of what it recorded. */
  readonly url: string
}

/** Has the same sentence heard by two microphones. */
export function useMicComparison() {
  const devices = useDevices()
  const preferences = usePreferences()
  const busy = ref(false)
  const trouble = ref<string | null>(null)
  const heard = shallowRef<readonly HeardMic[]>([])
  /** Which of them is better; null: neither. */
  const better = computed(() => {
    const found = betterVoice(heard.value.map(({ facts }) => facts))
    return found === null ? null : (heard.value[found] ?? null)
  })
  let work = new AbortController()

  function forget(): void {
    for (const { url } of heard.value) URL.revokeObjectURL(url)
    heard.value = []
  }

  async function compare(other: string): Promise<void> {
    const own = devices.stream?.getAudioTracks()[0]
    if (own === undefined || busy.value) return
    forget()
    busy.value = true
    trouble.value = null
    work = new AbortController()
    // Of its own, so that it is heard while the voice is muted.
    const copy = own.clone()
    copy.enabled = true
    let opened: Awaited<ReturnType<typeof openMic>> | null = null
    try {
      opened = await openMic(other, preferences.now)
      const ids = [devices.mic, other]
      const sounds = await recordTogether([copy, opened.track], SENTENCE, work.signal)
      heard.value = sounds.map(({ blob, samples }, n) => {
        const meter = new VoiceMeter()
        meter.take(samples)
        const id = ids[n] ?? other
        return { id, name: nameOfDevice(id, devices.mics), facts: meter.facts, url: URL.createObjectURL(blob) }
      })
    } catch (error) {
      if (!work.signal.aborted) trouble.value = sentenceOf(error)
    } finally {
      copy.stop()
      opened?.stop()
      busy.value = false
    }
  }

  function reset(): void {
    work.abort()
    forget()
  }
  onBeforeUnmount(reset)
  return { busy, trouble, heard, better, compare, reset }
}

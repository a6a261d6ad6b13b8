import { browserLines, deviceLines, reportText, serverLines, storeLines } from '~/capture'
import type { DeviceChoice, SelfTestLine, SelfTestPart } from '~/capture'
import { api, sentenceOf } from '~/client'
import { useDevices } from '~/stores/devices'
import { moment } from '~/words'

/** How long the level is listened to before it is noted, in ms. */
const LISTEN = 1500

/** What this browser, camera, microphone and disk can do, measured one after the other. */
export function useSelfTest() {
  const devices = useDevices()
  const parts = shallowRef<readonly SelfTestPart[]>([])
  /** What is being measured; null: nothing. */
  const under = ref<string | null>(null)
  const timing = computed<SelfTestLine>(() => {
    const { camera, mic } = devices.late
    if (camera + mic === 0) return { name: 'Picture and voice', state: 'standIn', say: 'not measured by a clap yet: taken to be together' }
    return {
      name: 'Picture and voice',
      state: 'good',
      say:
        camera > mic
          ? `the picture comes ${String(Math.round(camera))} ms late; takes are put right`
          : `the sound comes ${String(Math.round(mic))} ms late; takes are put right`,
    }
  })
  const all = computed<readonly SelfTestPart[]>(() =>
    parts.value.length === 0 ? [] : [...parts.value, { title: 'Timing', lines: [timing.value] }],
  )

  async function measure(title: string, of: () => Promise<readonly SelfTestLine[]> | readonly SelfTestLine[]): Promise<void> {
    under.value = title
    const lines = await Promise.resolve()
      .then(of)
      .catch((error: unknown): readonly SelfTestLine[] => [{ name: title, state: 'bad', say: sentenceOf(error) }])
    parts.value = [...parts.value, { title, lines }]
  }

  async function devicesPart(): Promise<readonly SelfTestLine[]> {
    if (devices.stream === null) await devices.open()
    const { stream } = devices
    if (stream === null) return [{ name: 'Camera and microphone', state: 'bad', say: devices.trouble ?? 'they did not open' }]
    devices.endFit()
    await new Promise((resolve) => {
      setTimeout(resolve, LISTEN)
    })
    const level = devices.unmeasured === null ? { peak: devices.held, rms: devices.level.rms } : null
    const labelOf = (id: string, from: readonly DeviceChoice[]): string => from.find((one) => one.id === id)?.label ?? 'opened'
    return await deviceLines(stream, { camera: labelOf(devices.camera, devices.cameras), mic: labelOf(devices.mic, devices.mics) }, level)
  }

  async function run(): Promise<void> {
    parts.value = []
    await measure('This browser', browserLines)
    await measure('Camera and microphone', devicesPart)
    await measure("This computer's store", storeLines)
    await measure('Server and clock', () => serverLines(() => api.get('/health')))
    under.value = null
  }
  const text = computed(() => reportText(all.value, navigator.userAgent, moment(new Date().toISOString())))
  onBeforeUnmount(() => {
    devices.close()
  })
  return { all, under, run, text }
}

import { hiss } from '../../app/capture/hiss'
import type { StandIn, When } from './plan'

/** A device that is opened: where its blocks or pictures go. */
export type Opened = {
  readonly plan: StandIn
  readonly origin: number
  readonly writable: WritableStream<unknown>
  readonly kind: 'mic' | 'camera'
}

/** What a test may tell a device to do. */
export type Told = 'change' | 'end'

const HEARD = 20
const SEEN = 130
const BEAT = 4

/** What a test has told this device to do. */
const told = new Set<Told>()
/**
 * Whether something that happens to a device has happened.
 * @param event what a test calls it
 * @param open how long it has been open, in ms
 */
const happened = (event: Told, when: When | undefined, open: number): boolean =>
  when !== undefined && (when === 'told' ? told.has(event) : open > when)

const sleep = (ms: number): Promise<void> =>
  new Promise((resolve) => {
    setTimeout(resolve, ms)
  })

/** Gives blocks of 10 ms, each when its last sample has been heard and its lateness has passed. */
async function mic({ plan, origin, writable }: Opened): Promise<void> {
  const { channels, ppm, late, jitter, change } = plan.mic
  const now = (): number => performance.timeOrigin + performance.now() - origin
  // The browser takes a block's stamp to be on the clock of whoever wrote it, which began later than the page's.
  const ahead = performance.timeOrigin - origin
  const writer = writable.getWriter()
  const noise = hiss()
  let voice = 0
  let { rate } = plan.mic
  let began = now()
  let count = 0
  const opened = began
  for (;;) {
    await sleep(BEAT)
    if (happened('end', plan.mic.ends, now() - opened)) {
      self.postMessage('ended')
      return await writer.close()
    }
    const real = rate * (1 + ppm / 1e6)
    const frames = rate / 100
    while (began + ((count + frames) / real) * 1000 + late <= now()) {
      const at = began + (count / real) * 1000
      const samples = new Float32Array(frames * channels)
      for (let n = 0; n < frames; n += 1) {
        // Low as a voice is between clicks: what is found again after coding is the shape of the wave.
        voice += (noise() - voice) * 0.06
        const sample = (at + (n / real) * 1000) % plan.every < HEARD ? noise() * 0.7 : voice * 0.3
        for (let channel = 0; channel < channels; channel += 1) samples[channel * frames + n] = sample
      }
      const timestamp = Math.round((at + late + noise() * jitter - ahead) * 1000)
      await writer.write(
        new AudioData({
          format: 'f32-planar',
          sampleRate: rate,
          numberOfFrames: frames,
          numberOfChannels: channels,
          timestamp,
          data: samples,
        }),
      )
      count += frames
    }
    if (change !== undefined && rate !== change.rate && happened('change', change.after, now() - opened)) {
      began += (count / real) * 1000
      count = 0
      rate = change.rate
    }
  }
}

/** Gives pictures at a steady rate, each a moment after it was taken. */
async function camera({ plan, origin, writable }: Opened): Promise<void> {
  const { width, height, late, starts, change } = plan.camera
  const now = (): number => performance.timeOrigin + performance.now() - origin
  const canvas = new OffscreenCanvas(width, height)
  const ctx = canvas.getContext('2d')
  if (ctx === null) throw new Error('no canvas')
  const writer = writable.getWriter()
  const opened = now()
  let next = opened + starts
  for (;;) {
    await sleep(BEAT)
    if (happened('end', plan.camera.ends, now() - opened)) return await writer.close()
    const rate = change !== undefined && happened('change', change.after, now() - opened) ? change.rate : plan.camera.rate
    while (next + late <= now()) {
      ctx.fillStyle = next % plan.every < SEEN && next > plan.every ? '#FFFFFF' : '#20406E'
      ctx.fillRect(0, 0, width, height)
      ctx.fillStyle = '#406E20'
      ctx.fillRect((next / 10) % width, height * 0.9, 40, 20)
      await writer.write(new VideoFrame(canvas, { timestamp: Math.round((next + late) * 1000) }))
      next += 1000 / rate
    }
  }
}

self.onmessage = ({ data }: MessageEvent<Opened | Told>) => {
  if (typeof data === 'string') told.add(data)
  else void (data.kind === 'mic' ? mic(data) : camera(data))
}

import { givePictures, sleep } from './give-pictures'
import { hiss } from './hiss'

/** What a practice device is told: where its blocks or pictures go, and where the page's clock began, on the clock on the wall. */
export type ClapDevice =
  | { readonly kind: 'mic'; readonly writable: WritableStream<AudioData>; readonly origin: number }
  | { readonly kind: 'camera'; readonly writable: WritableStream<VideoFrame>; readonly origin: number }

/** Time from one clap to the next, and how long each is heard and seen, in ms of the page's clock. */
const EVERY = 2000
const HEARD = 20
const SEEN = 130
const BEAT = 4
const SOUND_RATE = 48_000
/** Small, so that an encoder that is short of time keeps every flash. */
const PICTURE = { width: 640, height: 360, rate: 30 }

/** Gives blocks of 10 ms, each when it has been heard: a click every two seconds in the sound of a room. */
async function mic(writer: WritableStreamDefaultWriter<AudioData>, younger: number): Promise<void> {
  const noise = hiss()
  const frames = SOUND_RATE / 100
  const began = performance.now()
  let room = 0
  for (let block = 0; ; block += 1) {
    const at = began + block * 10
    while (at + 10 > performance.now()) await sleep(BEAT)
    const data = Float32Array.from({ length: frames }, (_, n) => {
      // As low as a voice: what is found again after coding is the shape of the wave.
      room += (noise() - room) * 0.06
      return (at + younger + (n / SOUND_RATE) * 1000) % EVERY < HEARD ? noise() * 0.7 : room * 0.2
    })
    await writer.write(
      new AudioData({
        format: 'f32-planar',
        sampleRate: SOUND_RATE,
        numberOfFrames: frames,
        numberOfChannels: 1,
        timestamp: Math.round(at * 1000),
        data,
      }),
    )
  }
}

/** Gives thirty pictures a second, bright while that click is heard and a little longer. */
function camera(writable: WritableStream<VideoFrame>, younger: number): Promise<never> {
  // A picture is taken just when a click begins: flash and click are one moment, not as much as a picture's time apart.
  const period = 1000 / PICTURE.rate
  const began = Math.ceil((performance.now() + younger) / period) * period - younger + 0.5
  return givePictures({ writable, size: PICTURE, fps: PICTURE.rate, began, younger }, (ctx, at) => {
    ctx.fillStyle = (at + younger) % EVERY < SEEN ? '#FFFFFF' : '#20406E'
    ctx.fillRect(0, 0, PICTURE.width, PICTURE.height)
  })
}

self.onmessage = ({ data }: MessageEvent<ClapDevice>) => {
  const younger = performance.timeOrigin - data.origin
  // A track that is stopped takes nothing more: that ends its device.
  if (data.kind === 'mic') void mic(data.writable.getWriter(), younger).catch(() => undefined)
  else void camera(data.writable, younger).catch(() => undefined)
}

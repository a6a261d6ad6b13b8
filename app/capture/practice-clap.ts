import { drawnCamera } from './practice-devices'
import type { PracticeCamera, PracticeMic } from './practice-devices'

/** Time from one clap to the next, and how long each is seen and heard, in seconds. */
const EVERY = 2
const SEEN = 0.13
const HEARD = 0.02

/** The clock that both go by, and when on it the first clap was. */
let clapping: { readonly context: AudioContext, readonly first: number } | null = null

/** A microphone that hears a click every two seconds. */
export async function openClapMic(): Promise<PracticeMic> {
  const context = new AudioContext({ sampleRate: 48_000 })
  await context.resume()
  const buffer = new AudioBuffer({ length: EVERY * context.sampleRate, sampleRate: context.sampleRate })
  const samples = buffer.getChannelData(0)
  let seed = 0x2545f491
  for (let n = 0; n < samples.length; n += 1) {
    // Noise that does not repeat (Marsaglia's xorshift), loud at the click and like a room after it.
    seed ^= seed << 13
    seed ^= seed >>> 17
    seed ^= seed << 5
    samples[n] = (seed / 2_147_483_648) * (n < HEARD * context.sampleRate ? 0.7 : 0.02)
  }
  const source = new AudioBufferSourceNode(context, { buffer, loop: true })
  const out = new MediaStreamAudioDestinationNode(context, { channelCount: 1 })
  source.connect(out)
  const first = context.currentTime + 0.1
  source.start(first)
  clapping = { context, first }
  return {
    stream: out.stream,
    loudness: () => 0,
    stop: () => {
      source.stop()
      clapping = null
      void context.close()
    },
  }
}

/** A camera that sees a flash whenever that microphone hears its click. */
export const openClapCamera = (): PracticeCamera => drawnCamera((ctx, size) => {
  const since = clapping === null ? -1 : (clapping.context.currentTime - clapping.first) % EVERY
  ctx.fillStyle = since >= 0 && since < SEEN ? '#FFFFFF' : '#20406E'
  ctx.fillRect(0, 0, size.width, size.height)
})

import { fromDb } from '@core/voice'
import { FRAME, LATENCY, SpeechNetwork } from './speech-network'
import { SampleReader } from './sample-reader'

/** So much of the room stays, in dB below what it was: one that is taken away altogether is heard to come and go with each word. */
const ROOM_LEFT = -20

/** Frames that are handed over together: a tenth of a second. */
const TOGETHER = 10

const clamped = (sample: number): number => Math.max(-32_768, Math.min(32_767, Math.round(sample)))

/**
 * A voice with the noise of its room taken down.
 * @param chunks mono samples of 16 bits, 48,000 a second
 * @returns as many, in time with them
 */
export async function* denoised(chunks: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
  const network = await SpeechNetwork.load()
  const reader = new SampleReader(chunks)
  const left = fromDb(ROOM_LEFT)
  let late = new Int16Array(FRAME)
  let read = 0
  let written = -LATENCY
  for (let ended = false; !ended;) {
    const samples = await reader.next(FRAME * TOGETHER)
    read += samples.length
    ended = samples.length < FRAME * TOGETHER
    // Behind its end comes what the network still holds.
    const frames = Math.ceil((samples.length + (ended ? LATENCY : 0)) / FRAME)
    const out = new Int16Array(frames * FRAME)
    for (let n = 0; n < frames; n += 1) {
      const frame = new Int16Array(FRAME)
      frame.set(samples.subarray(n * FRAME, (n + 1) * FRAME))
      const speech = network.speechIn(frame)
      for (let at = 0; at < FRAME; at += 1) out[n * FRAME + at] = clamped((speech[at] ?? 0) * (1 - left) + (late[at] ?? 0) * left)
      late = frame
    }
    const [from, to] = [Math.max(0, -written), Math.min(out.length, read - written)]
    written += out.length
    if (to > from) yield new Uint8Array(out.buffer, from * 2, (to - from) * 2)
  }
}

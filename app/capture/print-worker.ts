import { CaptureClock } from './capture-clock'

/** Time of a print, and time after the beginning before which none is taken, in ms. */
const LENGTH = 2000
const SETTLED = 700
/** A print of a room without speech could not be found again: its level is at least this, as an amplitude (root mean square). */
const HEARD = 10 ** (-42 / 20)

export interface Print {
  /** When its first sample was captured, in ms of the stretch. */
  readonly at: number
  readonly rate: number
  /** Samples of 16 bits. */
  readonly samples: ArrayBuffer
}

export type PrintOrder =
  | { readonly kind: 'begin', readonly readable: ReadableStream<AudioData>, readonly began: number }
  | { readonly kind: 'end' }

const send = (print: Print | null): void => { self.postMessage(print, { transfer: print === null ? [] : [print.samples] }) }

function printOf(parts: readonly Float32Array[], at: number, rate: number): Print | null {
  const samples = new Int16Array(parts.reduce((sum, part) => sum + part.length, 0))
  let [n, power] = [0, 0]
  for (const part of parts) {
    for (const sample of part) {
      samples[n] = Math.round(Math.max(-1, Math.min(1, sample)) * 32_767)
      power += sample * sample
      n += 1
    }
  }
  return Math.sqrt(power / Math.max(1, n)) < HEARD ? null : { at, rate, samples: samples.buffer }
}

let last: Print | null = null

/** Takes the first two seconds in which somebody speaks, and keeps the last two for when the stretch ends. */
async function listen(readable: ReadableStream<AudioData>, began: number): Promise<void> {
  const clock = new CaptureClock()
  const reader = readable.getReader()
  let parts: Float32Array[] = []
  let from = 0
  let first = false
  for (;;) {
    const { value: block } = await reader.read()
    if (block === undefined) return
    const { numberOfFrames: frames, sampleRate: rate } = block
    const { at, lost } = clock.take(block.timestamp / 1000, frames, rate)
    const samples = new Float32Array(frames)
    block.copyTo(samples, { planeIndex: 0, format: 'f32-planar' })
    block.close()
    if (lost || at - began < SETTLED) {
      parts = []
      continue
    }
    if (parts.length === 0) from = at - began
    parts.push(samples)
    if (at - began - from < LENGTH) continue
    const print = printOf(parts, from, rate)
    parts = []
    if (print === null) continue
    if (first) last = print
    else send(print)
    first = true
  }
}

self.onmessage = (message: MessageEvent<PrintOrder>) => {
  if (message.data.kind === 'begin') void listen(message.data.readable, message.data.began)
  else {
    // The last one, and then the word that there are no more.
    if (last !== null) send(last)
    send(null)
  }
}

import { CaptureClock } from './capture-clock'
import { pageStamp } from './page-stamp'

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

/** `origin`: where the page's clock began, on the clock on the wall. */
export type PrintOrder =
  | { readonly kind: 'begin', readonly readable: ReadableStream<AudioData>, readonly began: number, readonly origin: number }
  | { readonly kind: 'end' }

/** What the worker says: a print; that the microphone's rate has changed; that there are no more prints. */
export type PrintNews = { readonly kind: 'print', readonly print: Print } | { readonly kind: 'rate' } | { readonly kind: 'end' }

const tell = (news: PrintNews): void => { self.postMessage(news, { transfer: news.kind === 'print' ? [news.print.samples] : [] }) }

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
async function listen(readable: ReadableStream<AudioData>, began: number, origin: number): Promise<void> {
  const clock = new CaptureClock()
  const reader = readable.getReader()
  let parts: Float32Array[] = []
  let from = 0
  let first = false
  let usual: number | null = null
  for (;;) {
    const { value: block } = await reader.read()
    if (block === undefined) return
    const { numberOfFrames: frames, sampleRate: rate } = block
    if (usual !== null && rate !== usual) {
      block.close()
      tell({ kind: 'rate' })
      return
    }
    usual = rate
    const { at, lost } = clock.take(pageStamp(block.timestamp / 1000, performance.now(), performance.timeOrigin - origin), frames, rate)
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
    else tell({ kind: 'print', print })
    first = true
  }
}

self.onmessage = (message: MessageEvent<PrintOrder>) => {
  if (message.data.kind === 'begin') void listen(message.data.readable, message.data.began, message.data.origin)
  else {
    // The last one, and then the word that there are no more.
    if (last !== null) tell({ kind: 'print', print: last })
    tell({ kind: 'end' })
  }
}

import { heardBlocks } from './heard-blocks'
import type { BlockSource } from './heard-blocks'

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
  | { readonly kind: 'begin', readonly source: BlockSource, readonly began: number }
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
async function listen(source: BlockSource, began: number): Promise<void> {
  let parts: Float32Array[] = []
  let from = 0
  let first = false
  let usual: number | null = null
  for await (const { at, rate, samples, lost } of heardBlocks(source)) {
    if (usual !== null && rate !== usual) {
      tell({ kind: 'rate' })
      return
    }
    usual = rate
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
  if (message.data.kind === 'begin') void listen(message.data.source, message.data.began)
  else {
    // The last one, and then the word that there are no more.
    if (last !== null) tell({ kind: 'print', print: last })
    tell({ kind: 'end' })
  }
}

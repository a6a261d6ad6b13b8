import { fromDb } from '@core/voice'
import { heardBlocks } from './heard-blocks'
import type { BlockSource } from './heard-blocks'
import { sixteenBits } from './sixteen-bits'
import { VoiceTail } from './voice-tail'

/** Time of a print, and time after the beginning before which none is taken, in ms. */
const LENGTH = 2000
const SETTLED = 700
/** Of a stretch that is too short for one, so much is enough. */
const ENOUGH = 900
/** A print of a room without speech could not be found again: its level is at least this, as an amplitude (root mean square). */
const HEARD = fromDb(-42)

export interface Print {
  /** When its first sample was captured, in ms of the stretch. */
  readonly at: number
  readonly rate: number
  /** Samples of 16 bits. */
  readonly samples: ArrayBuffer
}

export type FingerprintOrder =
  /** `tail`: the stretch whose voice is kept besides, until its recording has it too; null when there is no need. */
  | { readonly kind: 'begin'; readonly source: BlockSource; readonly began: number; readonly tail: string | null }
  /** How far the recording on the disk has come, in ms. */
  | { readonly kind: 'reached'; readonly to: number }
  | { readonly kind: 'end' }

/**
 * What the worker says: a print; that the microphone's rate has changed; that what is said could not be kept; that there are no more
 * prints.
 */
export type FingerprintNews =
  | { readonly kind: 'print'; readonly print: Print }
  | { readonly kind: 'rate' }
  | { readonly kind: 'trouble'; readonly error: unknown }
  | { readonly kind: 'end' }

const tell = (news: FingerprintNews): void => {
  self.postMessage(news, { transfer: news.kind === 'print' ? [news.print.samples] : [] })
}

function fingerprintOf(parts: readonly Float32Array[], at: number, rate: number): Print | null {
  const samples = sixteenBits(parts)
  let power = 0
  for (const part of parts) for (const sample of part) power += sample * sample
  return Math.sqrt(power / Math.max(1, samples.length)) < HEARD ? null : { at, rate, samples: samples.buffer }
}

let last: Print | null = null
/** What is being gathered, while there is no print yet. */
let begun: { readonly parts: readonly Float32Array[]; readonly at: number; readonly rate: number } | null = null
let tail: VoiceTail | null = null

/** The first print is told at once, and the last one when the stretch ends. */
function found(print: Print, first: boolean): void {
  if (first) tell({ kind: 'print', print })
  else last = print
  begun = null
}

/** Takes the first two seconds in which somebody speaks, and keeps the last two for when the stretch ends. */
async function listen(source: BlockSource, began: number): Promise<void> {
  let parts: Float32Array[] = []
  let from = 0
  let first = false
  let usual: number | null = null
  for await (const block of heardBlocks(source)) {
    const { at, rate, samples, lost } = block
    if (usual !== null && rate !== usual) {
      tell({ kind: 'rate' })
      return
    }
    usual = rate
    if (at >= began) tail?.hear(at - began, block)
    if (lost || at - began < SETTLED) {
      parts = []
      continue
    }
    if (parts.length === 0) from = at - began
    parts.push(samples)
    if (!first) begun = { parts, at: from, rate }
    if (at - began - from < LENGTH) continue
    const print = fingerprintOf(parts, from, rate)
    parts = []
    if (print === null) continue
    found(print, !first)
    first = true
  }
}

self.onmessage = ({ data: order }: MessageEvent<FingerprintOrder>) => {
  switch (order.kind) {
    case 'begin':
      if (order.tail !== null)
        tail = new VoiceTail(order.tail, (error) => {
          tell({ kind: 'trouble', error })
        })
      void listen(order.source, order.began)
      return
    case 'reached':
      tail?.reached(order.to)
      return
    case 'end':
      if (begun !== null && (begun.parts.reduce((sum, part) => sum + part.length, 0) / begun.rate) * 1000 >= ENOUGH)
        last = fingerprintOf(begun.parts, begun.at, begun.rate)
      // The last one, and then the word that there are no more.
      if (last !== null) tell({ kind: 'print', print: last })
      tell({ kind: 'end' })
  }
}

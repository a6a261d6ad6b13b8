import type { Ms } from '@core/model'
import type { Print, FingerprintNews, FingerprintOrder } from './audio-fingerprint-worker'
import { rawBlocks } from './raw-blocks'

/** How long the last print is waited for when a stretch ends, in ms. */
const PATIENCE = 1500

export interface FingerprintEvents {
  /** A print; it is complete. */
  readonly onFingerprint: (print: Print) => void
  /** The microphone has changed how many samples a second it gives: what follows cannot be counted with what was before. */
  readonly onRate: () => void
  readonly onTrouble: (error: unknown) => void
}

/** A microphone that is read beside its recording. */
export interface ReadVoice {
  /** Says how far the recording on the disk has come, in ms of it. */
  readonly reached: (to: Ms) => void
  /** Ends it once the last print is kept. */
  readonly end: () => Promise<void>
}

/**
 * Takes short prints of a microphone with the times at which they were captured, off the main thread. With them the
 * server finds where the recorded sound really lies.
 * @param began where the stretch's time begins, on the page's clock
 * @param tail the stretch whose voice is also kept as it is, until its recording has come as far; null: none
 */
export function takeFingerprints(track: MediaStreamTrack, began: number, tail: string | null, heard: FingerprintEvents): ReadVoice {
  const raw = rawBlocks(track)
  const worker = new Worker(new URL('./audio-fingerprint-worker.ts', import.meta.url), { type: 'module' })
  let ended: (() => void) | null = null
  worker.onmessage = ({ data: news }: MessageEvent<FingerprintNews>) => {
    if (news.kind === 'print') heard.onFingerprint(news.print)
    else if (news.kind === 'rate') heard.onRate()
    else if (news.kind === 'trouble') heard.onTrouble(news.error)
    else ended?.()
  }
  const tell = (order: FingerprintOrder, transfer: Transferable[] = []): void => {
    worker.postMessage(order, transfer)
  }
  tell({ kind: 'begin', source: raw.source, began, tail }, raw.handOver)
  return {
    reached: (to) => {
      tell({ kind: 'reached', to })
    },
    end: async () => {
      const done = new Promise<void>((resolve) => {
        ended = resolve
      })
      tell({ kind: 'end' })
      await Promise.race([
        done,
        new Promise((resolve) => {
          setTimeout(resolve, PATIENCE)
        }),
      ])
      raw.end()
      worker.terminate()
    },
  }
}

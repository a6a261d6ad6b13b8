import type { Print, PrintOrder } from './print-worker'

declare global {
  /** The standard's `track`, which TypeScript's own types leave out. */
  interface MediaStreamTrackProcessorInit { readonly track: MediaStreamTrack }
}

/** Blocks that wait while the worker is busy; more would be dropped, and a print has no gaps. Blocks are 10 ms. */
const BUFFER = 300
/** How long the last print is waited for when a stretch ends, in ms. */
const PATIENCE = 1500

/**
 * Takes short prints of a microphone with the times at which they were captured, off the main thread. With them the
 * server finds where the recorded sound really lies.
 * @param began where the stretch's time begins, on the page's clock
 * @param keep is given each print
 * @returns ends it once the last print is kept; null when this browser cannot tell
 */
export function takePrints(track: MediaStreamTrack, began: number, keep: (print: Print) => void): (() => Promise<void>) | null {
  if (!('MediaStreamTrackProcessor' in globalThis)) return null
  const own = track.clone()
  const { readable } = new MediaStreamTrackProcessor({ track: own, maxBufferSize: BUFFER })
  const worker = new Worker(new URL('./print-worker.ts', import.meta.url), { type: 'module' })
  let ended: (() => void) | null = null
  worker.onmessage = (message: MessageEvent<Print | null>) => {
    if (message.data === null) ended?.()
    else keep(message.data)
  }
  const tell = (order: PrintOrder, transfer: Transferable[] = []): void => { worker.postMessage(order, transfer) }
  tell({ kind: 'begin', readable, began }, [readable])
  return async () => {
    const done = new Promise<void>((resolve) => { ended = resolve })
    tell({ kind: 'end' })
    await Promise.race([done, new Promise((resolve) => { setTimeout(resolve, PATIENCE) })])
    own.stop()
    worker.terminate()
  }
}

declare global {
  /** Chromium's own, not in TypeScript's types: a track of what a script gives. */
  const MediaStreamTrackGenerator: new (init: {
    readonly kind: 'audio' | 'video'
  }) => MediaStreamTrack & { readonly writable: WritableStream }
}

export interface WorkerDevice {
  readonly stream: MediaStream
  readonly worker: Worker
  readonly stop: () => void
}

/**
 * A device whose sound or pictures are made in a worker, by the machine's clock and beside whatever the page does.
 * @param begin starts the worker and transfers to it what its sound or pictures are written to
 * @returns null where the browser lets no such device be made
 */
export function workerDevice(kind: 'audio' | 'video', begin: (writable: WritableStream) => Worker): WorkerDevice | null {
  if (!('MediaStreamTrackGenerator' in globalThis)) return null
  const track = new MediaStreamTrackGenerator({ kind })
  const worker = begin(track.writable)
  return {
    stream: new MediaStream([track]),
    worker,
    stop: () => {
      track.stop()
      worker.terminate()
    },
  }
}

declare global {
  /** The standard's `track`, which TypeScript's own types leave out. */
  interface MediaStreamTrackProcessorInit { readonly track: MediaStreamTrack }
}

/** Blocks that wait while whoever reads them is busy; more would be dropped. Blocks are 10 ms. */
const BUFFER = 300

/**
 * The raw blocks of a microphone with the times at which they were captured.
 * @returns null where the browser does not give them
 */
export function rawBlocks(mic: MediaStreamTrack): { readonly readable: ReadableStream<AudioData>, readonly end: () => void } | null {
  if (!('MediaStreamTrackProcessor' in globalThis)) return null
  const track = mic.clone()
  const { readable } = new MediaStreamTrackProcessor({ track, maxBufferSize: BUFFER })
  return { readable, end: () => { track.stop() } }
}

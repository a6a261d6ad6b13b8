declare global {
  /** The standard's `track`, which TypeScript's own types leave out. */
  interface MediaStreamTrackProcessorInit { readonly track: MediaStreamTrack }
}

/** Blocks that wait while whoever reads them is busy; more would be dropped. Blocks are 10 ms. */
const BUFFER = 300

/** What reads a microphone beside its recording. */
const readers = new Map<MediaStreamTrack, Set<MediaStreamTrack>>()

/** Mutes a microphone or lets it be heard again, for all that records or reads it. */
export function enableVoice(mic: MediaStreamTrack, on: boolean): void {
  mic.enabled = on
  for (const reader of readers.get(mic) ?? []) reader.enabled = on
}

/**
 * The raw blocks of a microphone with the times at which they were captured.
 * @returns null where the browser does not give them
 */
export function rawBlocks(mic: MediaStreamTrack): { readonly readable: ReadableStream<AudioData>, readonly end: () => void } | null {
  if (!('MediaStreamTrackProcessor' in globalThis)) return null
  const track = mic.clone()
  const all = readers.get(mic) ?? new Set()
  readers.set(mic, all.add(track))
  const { readable } = new MediaStreamTrackProcessor({ track, maxBufferSize: BUFFER })
  return {
    readable,
    end: () => {
      track.stop()
      all.delete(track)
      if (all.size === 0) readers.delete(mic)
    },
  }
}

import { runningAudio } from './audio-context'
import type { BlockSource } from './heard-blocks'

declare global {
  /** The standard's `track`, which TypeScript's own types leave out. */
  interface MediaStreamTrackProcessorInit {
    readonly track: MediaStreamTrack
  }
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

/** A microphone's raw blocks for a worker, which is given `source` and has `handOver` handed over. */
export interface RawBlocks {
  readonly source: BlockSource
  readonly handOver: Transferable[]
  readonly end: () => void
}

/** Blocks as the browser's audio graph passes them, where it does not give them with their times. @returns what ends it */
function readInGraph(track: MediaStreamTrack, to: MessagePort): () => void {
  let ended = false
  let context: AudioContext | null = null
  const stop = (): void => {
    ended = true
    void context?.close().catch(() => undefined)
    context = null
  }
  const begin = async (): Promise<void> => {
    context = await runningAudio()
    await context.audioWorklet.addModule('/block-worklet.js')
    if (ended) {
      stop()
      return
    }
    const reader = new AudioWorkletNode(context, 'block-reader', { numberOfOutputs: 0, channelCount: 1, channelCountMode: 'explicit' })
    reader.port.postMessage(to, [to])
    new MediaStreamAudioSourceNode(context, { mediaStream: new MediaStream([track]) }).connect(reader)
  }
  // Without sound to read there are no prints, and the take says that its timing is approximate.
  void begin().catch(stop)
  return stop
}

/**
 * What the clock on the wall showed when the page's clock began, as both are now: both are read in whole milliseconds, and seldom at
 * the same moment.
 */
const wallOrigin = (): number => Math.max(...Array.from({ length: 200 }, () => Date.now() - performance.now()))

/** The raw blocks of a microphone with the times at which they were captured. */
export function rawBlocks(mic: MediaStreamTrack): RawBlocks {
  const track = mic.clone()
  const all = readers.get(mic) ?? new Set()
  readers.set(mic, all.add(track))
  const end = (): void => {
    track.stop()
    all.delete(track)
    if (all.size === 0) readers.delete(mic)
  }
  const origin = performance.timeOrigin
  if ('MediaStreamTrackProcessor' in globalThis) {
    const { readable } = new MediaStreamTrackProcessor({ track, maxBufferSize: BUFFER })
    return { source: { kind: 'stamped', readable, origin }, handOver: [readable], end }
  }
  const { port1, port2 } = new MessageChannel()
  const stop = readInGraph(track, port1)
  return {
    source: { kind: 'counted', port: port2, origin: wallOrigin() },
    handOver: [port2],
    end: () => {
      stop()
      end()
    },
  }
}

import { FLOOR_DB, rms, toDb } from '@core/voice'

/** Says how loud a media element is at the moment, beside playing it; browsers that cannot hand over what they play say nothing. */
export class PlayedLevel {
  readonly #context = new AudioContext()
  readonly #analysers = new WeakMap<HTMLMediaElement, AnalyserNode>()

  /** @returns dBFS; null: this browser does not tell */
  of(element: HTMLMediaElement): number | null {
    const analyser = this.#analysers.get(element) ?? this.#listen(element)
    if (analyser === null) return null
    const samples = new Float32Array(analyser.fftSize)
    analyser.getFloatTimeDomainData(samples)
    return Math.max(FLOOR_DB, toDb(rms(samples)))
  }

  #listen(element: HTMLMediaElement): AnalyserNode | null {
    const capture = (element as { captureStream?: () => MediaStream }).captureStream
    const stream = capture?.call(element)
    if (stream === undefined || stream.getAudioTracks().length === 0) return null
    const analyser = new AnalyserNode(this.#context, { fftSize: 2048 })
    new MediaStreamAudioSourceNode(this.#context, { mediaStream: stream }).connect(analyser)
    this.#analysers.set(element, analyser)
    return analyser
  }

  close(): void {
    void this.#context.close()
  }
}

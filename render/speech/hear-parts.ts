import { open } from 'node:fs/promises'
import type { TimeRange } from '@core/voice'
import type { OnnxModelConfig } from './model-folder'
import { HEARD_RATE } from './recognise'
import type { RecogniserResult } from './recognised-words'

/** The part of the recogniser's package (sherpa-onnx-node) that is used. */
export interface OnnxRecognisers {
  readonly OfflineRecognizer: new (config: {
    readonly featConfig: { readonly sampleRate: number; readonly featureDim: number }
    readonly modelConfig: OnnxModelConfig & { readonly numThreads: number; readonly provider: 'cpu' }
  }) => {
    createStream: () => { acceptWaveform: (sound: { readonly samples: Float32Array; readonly sampleRate: number }) => void }
    decode: (stream: ReturnType<InstanceType<OnnxRecognisers['OfflineRecognizer']>['createStream']>) => void
    getResult: (stream: ReturnType<InstanceType<OnnxRecognisers['OfflineRecognizer']>['createStream']>) => RecogniserResult
  }
}

/** What the hearing program is asked, on its standard input. */
export interface HearOrder {
  readonly model: OnnxModelConfig
  /** File of samples: 16 kHz, mono, 16 bits. */
  readonly samples: string
  readonly parts: readonly TimeRange[]
}

/** Bands of the sound that all these models look at. */
const FEATURES = 80
const BYTES = 2

/** Hears parts of a voice, one after the other. */
export async function* hearParts(
  { OfflineRecognizer }: OnnxRecognisers,
  { model, samples, parts }: HearOrder,
): AsyncGenerator<RecogniserResult> {
  const recogniser = new OfflineRecognizer({
    featConfig: { sampleRate: HEARD_RATE, featureDim: FEATURES },
    modelConfig: { ...model, numThreads: 1, provider: 'cpu' },
  })
  const file = await open(samples)
  try {
    for (const { from, to } of parts) {
      const [first, last] = [from, to].map((at) => Math.round((at / 1000) * HEARD_RATE)) as [number, number]
      const bytes = Buffer.alloc(Math.max(0, last - first) * BYTES)
      const { bytesRead } = await file.read(bytes, 0, bytes.length, first * BYTES)
      const sound = Float32Array.from({ length: Math.floor(bytesRead / BYTES) }, (_, n) => bytes.readInt16LE(n * BYTES) / 32_768)
      const stream = recogniser.createStream()
      stream.acceptWaveform({ samples: sound, sampleRate: HEARD_RATE })
      recogniser.decode(stream)
      const { text, tokens, timestamps } = recogniser.getResult(stream)
      yield { text, tokens, timestamps }
    }
  } finally {
    await file.close()
  }
}

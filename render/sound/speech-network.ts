import { readFile } from 'node:fs/promises'
import { createRequire } from 'node:module'

/** Samples that the network takes at a time: 10 ms of 48,000 a second. */
export const FRAME = 480
/** What it gives comes so many samples late: its windows overlap by half. Measured. */
export const LATENCY = 480

/** What is used here of compiled modules (W3C, WebAssembly JavaScript Interface): types for Node leave it out. */
interface Memory {
  readonly buffer: ArrayBuffer
  readonly grow: (pages: number) => number
}
interface Assembly {
  readonly instantiate: (
    bytes: Uint8Array,
    imports: Readonly<Record<string, Readonly<Record<string, unknown>>>>,
  ) => Promise<{ readonly instance: { readonly exports: unknown } }>
}
const { WebAssembly: assembly } = globalThis as unknown as { readonly WebAssembly: Assembly }

/**
 * What the compiled network offers, by the names that its build gave (`dist/rnnoise.js` of the package says which function each is): they
 * hold for the one version that package.json names.
 */
interface Exports {
  readonly c: Memory
  /** Begins the module's own values. */
  readonly d: () => void
  /** rnnoise_create */
  readonly f: (model: number) => number
  /** malloc */
  readonly g: (bytes: number) => number
  /** rnnoise_process_frame */
  readonly j: (state: number, out: number, samples: number) => number
}

const BYTES_A_FLOAT = 4
const PAGE = 65_536

async function compiled(): Promise<Exports> {
  const file = createRequire(import.meta.url).resolve('@jitsi/rnnoise-wasm/dist/rnnoise.wasm')
  const own: { memory: Memory | null } = { memory: null }
  const { instance } = await assembly.instantiate(await readFile(file), {
    a: {
      a: (bytes: number): number => {
        const { memory } = own
        if (memory === null) return 0
        memory.grow(Math.ceil(Math.max(0, bytes - memory.buffer.byteLength) / PAGE))
        return 1
      },
      b: (to: number, from: number, bytes: number): void => {
        if (own.memory !== null) new Uint8Array(own.memory.buffer).copyWithin(to, from, from + bytes)
      },
    },
  })
  // The package is pinned to one version, whose exports these are; a test has it take noise away.
  const exports = instance.exports as Exports
  own.memory = exports.c
  exports.d()
  return exports
}

/** A network that has learned to tell speech from noise (J.-M. Valin, RNNoise, 2018), fed frame by frame. */
export class SpeechNetwork {
  readonly #exports: Exports
  readonly #state: number
  readonly #place: number

  private constructor(exports: Exports) {
    this.#exports = exports
    this.#state = exports.f(0)
    this.#place = exports.g(FRAME * BYTES_A_FLOAT)
  }

  static async load(): Promise<SpeechNetwork> {
    return new SpeechNetwork(await compiled())
  }

  /** What of a frame is speech, `LATENCY` late. @param frame `FRAME` samples of 16 bits */
  speechIn(frame: Int16Array): Float32Array {
    // Memory that grew is another buffer.
    const place = (): Float32Array => new Float32Array(this.#exports.c.buffer, this.#place, FRAME)
    place().set(frame)
    this.#exports.j(this.#state, this.#place, this.#place)
    return Float32Array.from(place())
  }
}

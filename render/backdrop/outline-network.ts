import { readFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import { dirname } from 'node:path'
import { compileFunction } from 'node:vm'
import type { Size } from '@core/model'

/** What the network looks at. */
export const OUTLINE_SIZE: Size = { width: 256, height: 144 }
/** Bytes of such a picture in red, green and blue. */
export const PICTURE_BYTES = OUTLINE_SIZE.width * OUTLINE_SIZE.height * 3

type Factory = (given: Readonly<Record<string, unknown>>) => Promise<unknown>

/** What the runtime expects around itself: it is written for pages and their workers, which load its compiled part by a script. */
interface Surroundings {
  self?: unknown
  ModuleFactory?: Factory
  importScripts?: (file: string) => void
}

const require = createRequire(import.meta.url)
const quiet = (): void => undefined

/** Loads the script that begins the compiled part; it calls itself a module of another kind than it is. */
function factoryIn(file: string, script: string): Factory {
  const own: { exports: unknown } = { exports: null }
  const named = ['module', 'exports', 'require', '__dirname', '__filename']
  const run = compileFunction(script, named, { filename: file }) as (...given: readonly unknown[]) => void
  run(own, own.exports, require, dirname(file), file)
  const begin = own.exports as Factory
  // What it tells of itself does not belong into what this program writes.
  return (given) => begin({ ...given, print: quiet, printErr: quiet })
}

/**
 * A network that tells who is before a camera from what is behind (MediaPipe Selfie Segmentation, model for wide pictures, Google 2021),
 * run by LiteRT as WebAssembly. It is loaded once in a process of its own: it needs a page's surroundings, which are given to it.
 */
export class OutlineNetwork {
  readonly #see: (picture: Float32Array) => Promise<Float32Array>

  private constructor(see: (picture: Float32Array) => Promise<Float32Array>) {
    this.#see = see
  }

  static async load(): Promise<OutlineNetwork> {
    const file = require.resolve('@litertjs/core').replace(/dist\/[^/]*$/, 'wasm/litert_wasm_compat_internal.js')
    const script = await readFile(file, 'utf8')
    const around = globalThis as Surroundings
    around.self = globalThis
    around.importScripts = () => {
      around.ModuleFactory = factoryIn(file, script)
    }
    Object.defineProperty(globalThis, 'navigator', { value: {}, configurable: true })
    const warn = console.warn
    console.warn = quiet
    const { Tensor, loadAndCompile, loadLiteRt } = await import('@litertjs/core')
    await loadLiteRt(file)
    console.warn = warn
    const model = await readFile(require.resolve('@mediapipe/selfie_segmentation/selfie_segmentation_landscape.tflite'))
    const compiled = await loadAndCompile(new Uint8Array(model), { accelerator: 'wasm' })
    return new OutlineNetwork(async (picture) => {
      const given = new Tensor(picture, [1, OUTLINE_SIZE.height, OUTLINE_SIZE.width, 3])
      const [made] = await compiled.run([given])
      given.delete()
      if (made === undefined) throw new Error('the network gave nothing')
      const values = new Float32Array(await made.data())
      made.delete()
      return values
    })
  }

  /**
   * How surely each pixel shows who is before the camera, 0 to 1, row by row.
   * @param picture `OUTLINE_SIZE` pixels of red, green and blue, a byte each
   */
  outlineIn(picture: Uint8Array): Promise<Float32Array> {
    const values = new Float32Array(picture.length)
    for (let n = 0; n < picture.length; n += 1) values[n] = picture[n]! / 255
    return this.#see(values)
  }
}

import { randomUUID } from 'node:crypto'
import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { DeliveryView, TalkView } from '@contracts'
import { CHUNKS } from '@server/store'
import type { Client } from '../client'
import { decodesClean } from '../film-file'
import { digestOf } from '../recording'
import { sleep } from '../timed-take'
import { until } from '../run-product'
import type { Product } from '../run-product'

/** What was called safe or ready, by the last that was heard before the power went. */
export type Stage = 'recording' | 'closing' | 'making' | 'made'

/** How often a page asks again here. */
const MOST_TRIES = 20

/** A presenter's page and its machine: what the server has not called safe is still there, and is sent again. */
export class Presenter {
  readonly take = randomUUID()
  readonly #product: Product
  readonly #client: Client
  readonly #talk: string
  readonly #slide: string
  readonly #parts: readonly Buffer[]
  readonly #length: number
  readonly #stretch = randomUUID()
  readonly #safe = new Set<number>()
  #delivery: string | null = null
  #waiting: { readonly parts: number; readonly resolve: () => void } | null = null
  stage: Stage = 'recording'

  /** @param media what is recorded @param length of the stretch, in ms */
  constructor(product: Product, client: Client, talk: string, slide: string, media: Buffer, length: number) {
    this.#product = product
    this.#client = client
    this.#talk = talk
    this.#slide = slide
    this.#length = length
    const size = Math.ceil(media.length / 12)
    this.#parts = Array.from({ length: Math.ceil(media.length / size) }, (_, n) => media.subarray(n * size, (n + 1) * size))
  }

  /** Records what is not safe yet, and has the take made ready. */
  async send(): Promise<void> {
    await this.#client.get('PUT', `/talks/${this.#talk}/takes/${this.take}`, { kind: 'full', intent: { kind: 'replaceAll' } })
    await this.#client.get('PUT', `/stretches/${this.#stretch}`, {
      take: this.take,
      number: 0,
      camera: true,
      voice: true,
      mime: 'video/webm;codecs=vp8,opus',
      opening: { slide: this.#slide, step: 0, blank: false, inset: true, ink: [] },
    })
    for (const [n, bytes] of this.#parts.entries()) {
      if (this.#safe.has(n)) continue
      const { status } = await this.#client.ask('PUT', `/stretches/${this.#stretch}/chunks/${String(n)}`, new Uint8Array(bytes), {
        'x-aisle-chunks': `${String(bytes.length)}:${digestOf(bytes)}`,
        'content-type': 'application/octet-stream',
      })
      if (status === 200) this.#safe.add(n)
      if (this.#safe.size >= (this.#waiting?.parts ?? Infinity)) this.#waiting?.resolve()
    }
    await this.#client.get('POST', `/stretches/${this.#stretch}/close`, { chunks: this.#parts.length, cues: 0, length: this.#length })
    await this.#client.get('POST', `/takes/${this.take}/finish`)
    this.#reach('closing')
  }

  /** Resolves once that many parts of the recording were called safe. */
  whenSafe(parts: number): Promise<void> {
    return new Promise((resolve) => {
      this.#waiting = { parts, resolve }
    })
  }

  /** Goes on from where it is, to a finished file. Can be called again after a cut. */
  async goOn(): Promise<void> {
    await this.send()
    await until(
      'the take',
      async () =>
        (await this.#client.get<TalkView>('GET', `/talks/${this.#talk}`)).takes.find((one) => one.id === this.take)?.state === 'closed',
    )
    this.#reach('making')
    this.#delivery ??= (
      await this.#client.get<{ id: string }>('POST', `/talks/${this.#talk}/deliveries`, {
        quality: 'small',
        name: 'cut',
        limit: { kind: 'none' },
        lines: 480,
      })
    ).id
    await until('the file', async () => {
      const now = await this.#file()
      if (now?.state === 'failed') throw new Error(`the file failed: ${now.sentence ?? ''}`)
      return now?.state === 'done'
    })
    this.#reach('made')
  }

  /** Goes on like a page, which asks again when it is not answered. */
  async goOnAnyhow(): Promise<void> {
    for (let again = 0; ; again += 1) {
      try {
        await this.goOn()
        return
      } catch (error) {
        if (again === MOST_TRIES) throw error
        await sleep(500)
      }
    }
  }

  #reach(stage: Stage): void {
    const order: readonly Stage[] = ['recording', 'closing', 'making', 'made']
    if (order.indexOf(stage) > order.indexOf(this.stage)) this.stage = stage
  }

  async #file(): Promise<DeliveryView | undefined> {
    return (await this.#client.get<DeliveryView[]>('GET', `/talks/${this.#talk}/deliveries`)).find((one) => one.id === this.#delivery)
  }

  /** Looks, as soon as the product is back, at what it had called safe or ready. @throws Error saying what is not there */
  async lookAtWhatWasSafe(): Promise<void> {
    const store = (...parts: readonly string[]): string => join(this.#product.data, 'store', ...parts)
    if (this.stage === 'recording' && this.#safe.size > 0) {
      const { chunks } = await this.#client.get<{ chunks: number[] }>('GET', `/stretches/${this.#stretch}`)
      for (const n of this.#safe) {
        if (!chunks.includes(n)) throw new Error(`part ${String(n)} was called safe and is not known`)
        const kept = await readFile(store('stretches', this.#stretch, CHUNKS, String(n).padStart(7, '0')))
        if (!kept.equals(this.#parts[n] ?? Buffer.alloc(0))) throw new Error(`part ${String(n)} was called safe and is damaged`)
      }
    }
    if (this.stage === 'making' || this.stage === 'made') {
      const row = await this.#product.db.selectFrom('stretch').selectAll().where('id', '=', this.#stretch).executeTakeFirstOrThrow()
      for (const [name, digest] of [
        ['raw.webm', row.raw_digest],
        ['recording.webm', row.recording_digest],
        ['voice.pcm', row.voice_digest],
      ] as const) {
        const kept = digestOf(await readFile(store('stretches', this.#stretch, name)))
        // What was made of the recording is digested once it is ready; what is not yet, is before anybody is told that it is whole.
        if (digest !== null && kept !== digest) throw new Error(`${name} was called ready and is damaged`)
      }
    }
    if (this.stage === 'made') await this.lookAtAll()
  }

  /** Looks at all that is there at the end. @throws Error saying what is not as it was recorded */
  async lookAtAll(): Promise<void> {
    const raw = await readFile(join(this.#product.data, 'store', 'stretches', this.#stretch, 'raw.webm'))
    if (!raw.equals(Buffer.concat(this.#parts))) throw new Error('the recording is not what was sent')
    const file = await this.#file()
    if (file?.facts == null || file.facts.frames !== file.framesTotal) throw new Error('the file has not all frames')
    if (!(await decodesClean(join(this.#product.data, 'store', 'deliveries', file.id, 'film.mp4')))) throw new Error('the file is damaged')
  }
}

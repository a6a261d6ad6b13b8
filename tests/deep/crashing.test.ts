import { existsSync, readFileSync, readdirSync } from 'node:fs'
import { readdir, rename } from 'node:fs/promises'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { DeliveryView } from '@contracts'
import { KNOTS } from '../harness/decks'
import { Client } from '../harness/client'
import { decodesClean } from '../harness/film-file'
import { startProduct, until } from '../harness/product'
import type { Product } from '../harness/product'
import { facedRecording, sendTake } from '../harness/recording'
import { knotsTalk } from '../harness/talks'

let product: Product
let client: Client
let talk: string
const stretches = (): string => join(product.data, 'store', 'stretches')

beforeAll(async () => {
  product = await startProduct({ AISLE_ENCODER_THREADS: '1' })
  client = new Client(product.url)
  const made = await knotsTalk(client, 'Crashing')
  talk = made.talk
  const colours = ['magenta', 'teal']
  await sendTake(
    client,
    talk,
    'full',
    { kind: 'replaceAll' },
    await Promise.all(
      colours.map(async (colour, n) => ({
        media: await facedRecording(6, colour, 60),
        camera: true,
        length: 6000,
        slide: made.slides[n] ?? '',
      })),
    ),
  )
})
afterAll(async () => {
  await product.stop()
})

const order = async (lines: number): Promise<string> =>
  (
    await client.get<{ id: string }>('POST', `/talks/${talk}/deliveries`, {
      quality: 'good',
      name: 'crashing',
      limit: { kind: 'none' },
      lines,
    })
  ).id
const ended = (id: string): Promise<DeliveryView> =>
  until('an end', async () => {
    const now = (await client.get<DeliveryView[]>('GET', `/talks/${talk}/deliveries`)).find((one) => one.id === id)
    return now !== undefined && (now.state === 'done' || now.state === 'failed') && now
  })

/** The encoders that work for a delivery (proc(5): cmdline). */
const encodersOf = (delivery: string): readonly number[] =>
  readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .map(Number)
    .filter((pid) => {
      try {
        const words = readFileSync(`/proc/${String(pid)}/cmdline`, 'utf8').split('\0')
        return words[0] === 'ffmpeg' && words.some((word) => word.includes(`.${delivery}.`) && word.endsWith('.part'))
      } catch {
        return false
      }
    })

describe('a file', () => {
  it('whose encoder crashes is made all the same, and nothing half-made is left', async () => {
    const id = await order(1080)
    const [encoder] = await until('an encoder', () => Promise.resolve(encodersOf(id).length > 0 && encodersOf(id)))
    process.kill(encoder ?? 0, 'SIGKILL')
    const made = await ended(id)
    expect([made.state, made.facts?.frames]).toEqual(['done', 360])
    expect(await decodesClean(join(product.data, 'store', 'deliveries', id, 'film.mp4'))).toBe(true)
    expect((await readdir(join(product.data, 'store', 'segments'))).filter((name) => name.includes('.part'))).toEqual([])
  })

  it("of which one part cannot be made fails with the slide's name and without a file, and is made once it can", async () => {
    const { takes } = await client.get<{ takes: { id: string }[] }>('GET', `/talks/${talk}`)
    const second = await product.db
      .selectFrom('stretch')
      .select('id')
      .where('take', '=', takes[0]?.id ?? '')
      .where('number', '=', 1)
      .executeTakeFirstOrThrow()
    const recording = join(stretches(), second.id, 'recording.webm')
    await rename(recording, `${recording}.away`)
    const id = await order(480)
    const failed = await ended(id)
    expect(failed.state).toBe('failed')
    expect(failed.sentence).toContain(`the part on “${KNOTS[1]?.title ?? ''}”`)
    expect(existsSync(join(product.data, 'store', 'deliveries', id, 'film.mp4'))).toBe(false)
    expect((await client.ask('GET', `/deliveries/${id}/file`)).status).toBeGreaterThanOrEqual(400)

    await rename(`${recording}.away`, recording)
    await client.ask('POST', `/deliveries/${id}/retry`)
    const made = await ended(id)
    expect(made.state).toBe('done')
    // What was finished the first time was kept.
    expect(made.facts?.encoded).toBe(180)
    expect(made.facts?.frames).toBe(360)
  })
})

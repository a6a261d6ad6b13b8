import { execFile } from 'node:child_process'
import { readFile, rm, truncate, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { DeliveryView } from '@contracts'
import { Client } from '../harness/client'
import { startProduct, until } from '../harness/product'
import type { Product } from '../harness/product'
import { facedRecording, sendTake } from '../harness/recording'
import { knotsTalk } from '../harness/talks'

let product: Product
let client: Client
let talk: string
let stretch: string
beforeAll(async () => {
  product = await startProduct()
  client = new Client(product.url)
  const made = await knotsTalk(client, 'Kept')
  talk = made.talk
  const { take } = await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [
    { media: await facedRecording(3, 'teal'), camera: true, length: 2800, slide: made.slides[0] ?? '' },
  ])
  stretch = (await product.db.selectFrom('stretch').select('id').where('take', '=', take).executeTakeFirstOrThrow()).id
})
afterAll(async () => {
  await product.stop()
})

const file = (name: string): string => join(product.data, 'store', 'stretches', stretch, name)

/** Runs the check as an operator does. */
async function check(...args: readonly string[]): Promise<{ readonly code: number; readonly said: string }> {
  const env = { ...process.env, AISLE_DATA: product.data, DATABASE_URL: product.databaseUrl }
  return await promisify(execFile)(process.execPath, ['--import', 'tsx', 'scripts/verify.ts', ...args], { env }).then(
    ({ stdout }) => ({ code: 0, said: stdout }),
    (error: unknown) => {
      const { code, stdout, stderr } = error as { readonly code: number; readonly stdout: string; readonly stderr: string }
      return { code, said: stdout + stderr }
    },
  )
}

describe('what is kept', () => {
  it('is found whole, and a recording and voice that are missing or damaged are made again as they were', async () => {
    await until('digests', async () => {
      const row = await product.db.selectFrom('stretch').select('voice_digest').where('id', '=', stretch).executeTakeFirst()
      return row?.voice_digest != null
    })
    expect((await check()).code).toBe(0)
    const [recording, voice] = [await readFile(file('recording.webm')), await readFile(file('voice.pcm'))]
    await rm(file('voice.pcm'))
    await truncate(file('recording.webm'), 1000)
    const looked = await check()
    expect([looked.code, looked.said]).toEqual([1, expect.stringContaining(`can be made again: ${file('recording.webm')}`)])
    expect((await readFile(file('recording.webm'))).length).toBe(1000)
    const { code, said } = await check('--repair')
    expect([code, said]).toEqual([0, expect.stringContaining('1 made again')])
    expect((await readFile(file('voice.pcm'))).equals(voice)).toBe(true)
    expect((await readFile(file('recording.webm'))).equals(recording)).toBe(true)
  })

  it('and a finished file that was damaged is made once more', async () => {
    const id = (
      await client.get<{ id: string }>('POST', `/talks/${talk}/deliveries`, {
        quality: 'good',
        name: 'kept',
        limit: { kind: 'none' },
        lines: 480,
      })
    ).id
    const done = () =>
      until(
        'the file',
        async () => (await client.get<DeliveryView[]>('GET', `/talks/${talk}/deliveries`)).find((one) => one.id === id)?.state === 'done',
      )
    await done()
    const film = join(product.data, 'store', 'deliveries', id, 'film.mp4')
    const before = await readFile(film)
    await writeFile(film, before.subarray(0, before.length / 2))
    expect((await check('--repair')).said).toContain('1 made again')
    await done()
    expect((await readFile(film)).length).toBe(before.length)
  })

  it('and what cannot be made again is named', async () => {
    const raw = await readFile(file('raw.webm'))
    raw[200] = (raw[200] ?? 0) ^ 1
    await writeFile(file('raw.webm'), raw)
    const { code, said } = await check()
    expect([code, said]).toEqual([1, expect.stringContaining(`lost: ${file('raw.webm')}`)])
  })
})

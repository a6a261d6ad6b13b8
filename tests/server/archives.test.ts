import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { TalkArchive } from '@core/archive'
import { changedArchive, editedTalk, restored } from '../harness/archived'
import { Client } from '../harness/client'
import { exported } from '../harness/exports'
import { startProduct } from '../harness/product'
import type { Product } from '../harness/product'
import { broughtInto, delivered } from '../harness/talks'
import { unzipped } from '../harness/unzipped'

let product: Product
let client: Client
beforeAll(async () => {
  product = await startProduct()
  client = new Client(product.url)
})
afterAll(async () => {
  await product.stop()
})

describe('an archive', () => {
  let edited: string
  let archive: Uint8Array
  beforeAll(async () => {
    edited = await editedTalk(client)
    archive = (await exported(client, edited, { kind: 'archive' })).bytes
  })

  it('that was changed, cut short, made by a newer version, or leads outside, is refused and leaves nothing', async () => {
    const text = JSON.parse((await unzipped(archive)).get('aisle-knots-to-keep/talk.json')?.toString() ?? '') as TalkArchive
    const json = (changes: object): string => JSON.stringify({ ...text, ...changes })
    const raw = text.takes[0]?.stretches[0]?.folder ?? ''
    const stranger = randomUUID()
    const cases: readonly (readonly [Buffer | Uint8Array, RegExp])[] = [
      [archive.slice(0, archive.length / 2), /cut short/],
      [Buffer.from('no zip'), /damaged/],
      [await changedArchive(archive, { 'talk.json': null }), /no archive of a talk/],
      [await changedArchive(archive, { 'talk.json': json({ version: 99 }) }), /newer version \(99/],
      [await changedArchive(archive, { 'talk.json': json({ slides: [{}] }) }), /was changed and cannot be read/],
      [await changedArchive(archive, { [`${raw}/raw.webm`]: 'another' }), /raw\.webm.*missing or was changed/],
      [await changedArchive(archive, { [`${raw}/raw.webm`]: null }), /raw\.webm.*missing or was changed/],
      [
        await changedArchive(archive, {
          'talk.json': JSON.stringify(text)
            .replaceAll(text.slides[0]?.id ?? '', stranger)
            .replace(stranger, text.slides[0]?.id ?? ''),
        }),
        /lacks .* that it names/,
      ],
      [
        await changedArchive(archive, {
          'talk.json': json({
            takes: text.takes.map((take) => ({ ...take, stretches: take.stretches.map((one) => ({ ...one, folder: '../../../etc' })) })),
          }),
        }),
        /was changed and cannot be read/,
      ],
    ]
    for (const [bytes, sentence] of cases) {
      const view = await restored(client, bytes)
      expect([view.imports[0]?.state, view.imports[0]?.sentence]).toEqual(['failed', expect.stringMatching(sentence)])
      expect(view.slides).toEqual([])
      expect(view.takes).toEqual([])
    }
    const asDeck = await broughtInto(client, edited, 'archive.zip', archive)
    expect(asDeck.imports[0]?.sentence).toMatch(/archive of a whole talk/)
  })

  it('holds the files of the ledger only where they are asked for', async () => {
    await delivered(client, edited)
    const { length } = await client.get<readonly unknown[]>('GET', `/talks/${edited}/deliveries`)
    const names = async (deliveries: boolean): Promise<readonly string[]> =>
      [...(await unzipped((await exported(client, edited, { kind: 'archive', deliveries })).bytes)).keys()].filter((name) =>
        /\/files\//.test(name),
      )
    expect(await names(false)).toEqual([])
    expect(await names(true)).toHaveLength(length)
  })
})

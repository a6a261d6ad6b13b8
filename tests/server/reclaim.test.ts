import { randomUUID } from 'node:crypto'
import { access, mkdir, utimes, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { FilmView } from '@contracts'
import { answeredCall } from '../harness/calls'
import { Client, sentenceOf } from '../harness/client'
import { startProduct } from '../harness/product'
import type { Product } from '../harness/product'
import { digestOf, sendTake, toneRecording } from '../harness/recording'
import { reclaimNow } from '../harness/reclaim'
import { knotsTalk } from '../harness/talks'

let product: Product
let client: Client
beforeAll(async () => {
  product = await startProduct({ AISLE_GRACE_DAYS: '0' })
  client = new Client(product.url)
})
afterAll(async () => {
  await product.stop()
})

const there = (...parts: readonly string[]): Promise<boolean> =>
  access(join(product.data, 'store', ...parts)).then(
    () => true,
    () => false,
  )
const LONG_AGO = new Date(Date.now() - 3 * 86_400_000)

describe('space that nothing refers to', () => {
  it('is reclaimed, and what something refers to is not touched', async () => {
    const {
      talk,
      slides: [slide = ''],
    } = await knotsTalk(client, 'Swifts at dusk')
    const media = await toneRecording(2)
    const kept = await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [{ media, length: 2000, slide }])
    const thrown = await sendTake(client, talk, 'full', { kind: 'append' }, [{ media, length: 2000, slide }])
    const [keptStretch, thrownStretch] = await Promise.all(
      [kept, thrown].map(
        async ({ take }) => (await product.db.selectFrom('stretch').select('id').where('take', '=', take).executeTakeFirstOrThrow()).id,
      ),
    )
    await client.get('DELETE', `/takes/${thrown.take}`)
    // One that is said to be discarded while the programme still names it.
    await product.db.updateTable('take').set({ state: 'discarded', discarded: LONG_AGO }).where('id', '=', kept.take).execute()

    const [stray, fresh] = [randomUUID(), randomUUID()]
    for (const name of [stray, fresh]) await mkdir(join(product.data, 'store', 'stretches', name, 'chunks'), { recursive: true })
    const asset = digestOf(new TextEncoder().encode('a picture that no slide shows'))
    await mkdir(join(product.data, 'store', 'assets', asset.slice(0, 2)), { recursive: true })
    await writeFile(join(product.data, 'store', 'assets', asset.slice(0, 2), asset), 'a picture that no slide shows')
    const { digest: shown } = await product.db.selectFrom('asset').select('digest').where('talk', '=', talk).executeTakeFirstOrThrow()
    for (const path of [
      ['stretches', stray],
      ['assets', asset.slice(0, 2), asset],
      ['assets', shown.slice(0, 2), shown],
      ['stretches', keptStretch ?? ''],
      ['stretches', thrownStretch ?? ''],
    ]) {
      await utimes(join(product.data, 'store', ...path), LONG_AGO, LONG_AGO)
    }
    await reclaimNow(product)

    expect(await there('stretches', thrownStretch ?? '')).toBe(false)
    expect(await there('stretches', stray)).toBe(false)
    expect(await there('assets', asset.slice(0, 2), asset)).toBe(false)
    expect(await there('stretches', fresh)).toBe(true)
    expect(await there('assets', shown.slice(0, 2), shown)).toBe(true)
    expect(await there('stretches', keptStretch ?? '', 'recording.webm')).toBe(true)
    const gone = await client.ask('POST', `/takes/${thrown.take}/restore`)
    expect(gone.status).toBe(404)
    expect(sentenceOf(gone.body)).not.toBe('')
    expect((await client.ask('GET', `/stretches/${keptStretch ?? ''}/recording`)).status).toBe(200)
  })

  it('is not what a file is still to be made of, also while that stands still', async () => {
    const {
      talk,
      slides: [slide = ''],
    } = await knotsTalk(client, 'Swifts at noon')
    const media = await toneRecording(2)
    await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [{ media, length: 2000, slide }])
    const thrown = await sendTake(client, talk, 'full', { kind: 'append' }, [{ media, length: 2000, slide }])
    const { id } = await client.get<{ id: string }>('POST', `/talks/${talk}/deliveries`, {
      lines: 480,
      quality: 'good',
      name: 'noon',
      limit: { kind: 'none' },
      starts: new Date(Date.now() + 86_400_000).toISOString(),
    })
    await client.get('POST', `/deliveries/${id}/pause`)
    await client.get('DELETE', `/takes/${thrown.take}`)
    await product.db.updateTable('take').set({ discarded: LONG_AGO }).where('id', '=', thrown.take).execute()
    const stillThere = async () =>
      (await product.db.selectFrom('take').select('id').where('id', '=', thrown.take).executeTakeFirst()) !== undefined
    await reclaimNow(product)
    expect(await stillThere()).toBe(true)
    await client.get('POST', `/deliveries/${id}/cancel`)
    await reclaimNow(product)
    expect(await stillThere()).toBe(false)
  })

  it('goes with a deleted talk once that can no longer be brought back', async () => {
    const { talk } = await knotsTalk(client, 'Swifts at noon')
    await client.get('DELETE', `/talks/${talk}`)
    await reclaimNow(product)
    expect((await client.ask('POST', `/talks/${talk}/restore`)).status).toBe(404)
    expect(await product.db.selectFrom('slide').select('id').where('talk', '=', talk).execute()).toEqual([])
  })
})

describe('a long history', () => {
  it('is kept by how its revisions differ, and each of them is there as it was', async () => {
    const {
      talk,
      slides: [slide = ''],
    } = await knotsTalk(client, 'Swifts in the rain')
    const media = await toneRecording(4)
    await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [{ media, length: 4000, slide }])
    const [author, before]: [string, FilmView['programme'][]] = [randomUUID(), []]
    const now = async () => (await client.get<FilmView>('GET', `/talks/${talk}/film`)).programme
    for (let n = 0; n < 5; n += 1) {
      const programme = await now()
      before.push(programme)
      const edit = { kind: 'cut', parts: [{ from: 100, to: 300 }] }
      await client.get('POST', `/talks/${talk}/programme`, { revision: programme.revision, author, edit })
    }
    await product.db.updateTable('programme').set({ made: LONG_AGO }).where('talk', '=', talk).execute()
    await reclaimNow(product)
    const kept = await product.db
      .selectFrom('programme')
      .select(['revision', 'value', 'difference'])
      .where('talk', '=', talk)
      .orderBy('revision')
      .execute()
    expect(kept.map(({ value, difference }) => [value === null, difference === null])).toEqual([
      ...before.map(() => [true, false]),
      [false, true],
    ])
    for (const { revision, pieces } of [...before].reverse()) {
      await client.get('POST', `/talks/${talk}/programme/return`, { author, revision })
      expect((await now()).pieces).toEqual(pieces)
    }
  })
})

describe('a call that was taken back', () => {
  it('is forgotten with what was handed in to it, but not the talks, nor whose they are until they have gone as well', async () => {
    const { call, entry, pupil, talk } = await answeredCall(product.url, client, 'Knots')
    const folder = join(product.data, 'store', 'entries', entry)
    await utimes(folder, LONG_AGO, LONG_AGO)
    await client.get('DELETE', `/calls/${call}`)
    await reclaimNow(product)
    expect(await there('entries', entry)).toBe(false)
    expect((await pupil.ask('GET', `/talks/${talk}`)).status).toBe(200)
    const guests = async () => (await product.db.selectFrom('person').select('id').where('guest', '=', true).execute()).length
    expect(await guests()).toBe(1)
    await pupil.get('DELETE', `/talks/${talk}`)
    await reclaimNow(product)
    expect(await guests()).toBe(0)
    expect(await product.db.selectFrom('call').select('id').where('id', '=', call).execute()).toEqual([])
  })
})

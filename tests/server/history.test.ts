import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Programme } from '@core/model'
import { programmeLength, seamsOf, visitsOf } from '@core/programme'
import type { ProgrammeEdit } from '@core/programme'
import { withProgramme } from '@contracts'
import type { FilmView, HistoryView, ProgrammeAnswer } from '@contracts'
import { Client, sentenceOf } from '../harness/client'
import { startProduct } from '../harness/product'
import type { Product } from '../harness/product'
import { sendTake, toneRecording } from '../harness/recording'
import { knotsTalk } from '../harness/talks'

let product: Product
let client: Client
let talk: string
const [here, there] = [randomUUID(), randomUUID()]

beforeAll(async () => {
  product = await startProduct()
  client = new Client(product.url)
  const { talk: made, slides } = await knotsTalk(client)
  talk = made
  await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [
    {
      media: await toneRecording(9),
      length: 9000,
      slide: slides[0] ?? '',
      cues: [
        { kind: 'show', at: 3000, slide: slides[1], step: 0 },
        { kind: 'show', at: 6000, slide: slides[2], step: 0 },
      ],
    },
  ])
})
afterAll(async () => {
  await product.stop()
})

const now = async (): Promise<Programme> => (await client.get<FilmView>('GET', `/talks/${talk}/film`)).programme
const edit = (revision: number, author: string, change: ProgrammeEdit) =>
  client.ask('POST', `/talks/${talk}/programme`, { revision, author, edit: change })
const back = (author: string, role: 'undo' | 'redo') => client.ask('POST', `/talks/${talk}/programme/back`, { author, role })
const history = (author: string): Promise<HistoryView> =>
  client.get<HistoryView>('GET', `/talks/${talk}/programme/history?browser=${author}`)

describe('changes of a programme', () => {
  it('of two pages are both kept, each page takes back its own alone, and the same part is never overwritten', async () => {
    const before = await now()
    const [first, second, third] = visitsOf(before)
    if (first === undefined || second === undefined || third === undefined) throw new Error('three visits were recorded')
    expect((await edit(before.revision, here, { kind: 'cut', parts: [{ from: 1000, to: 1700 }] })).status).toBe(200)
    // The other page does not know of that yet.
    expect((await edit(before.revision, there, { kind: 'tempo', visits: [third.id], rate: { num: 27, den: 25 } })).status).toBe(200)
    const both = await now()
    expect(programmeLength(both)).toBeCloseTo(9000 - 700 - 3000 + (3000 * 25) / 27, 6)
    const refused = await edit(before.revision, there, { kind: 'cut', parts: [{ from: 200, to: 400 }] })
    expect(refused.status).toBe(409)
    expect(sentenceOf(refused.body)).toMatch(/changed elsewhere .* Nothing was overwritten/)
    expect((await now()).revision).toBe(both.revision)

    expect(await history(here)).toMatchObject({ undo: { kind: 'cut', parts: 1 }, redo: null, sinceDelivery: null })
    expect(await history(there)).toMatchObject({ undo: { kind: 'tempo' }, redo: null })
    expect((await back(here, 'undo')).status).toBe(200)
    expect(programmeLength(await now())).toBeCloseTo(6000 + (3000 * 25) / 27, 6)
    expect(await history(here)).toMatchObject({ undo: null, redo: { kind: 'cut', parts: 1 } })
    expect((await back(here, 'redo')).status).toBe(200)
    expect((await now()).pieces).toEqual(both.pieces)
    expect((await back(there, 'undo')).status).toBe(200)
    expect(programmeLength(await now())).toBe(8300)
    expect((await back(there, 'undo')).status).toBe(404)
  })

  it('answer all that a page needs to go on as if it had asked for the film anew', async () => {
    const author = randomUUID()
    const film = await client.get<FilmView>('GET', `/talks/${talk}/film`)
    const [first, second] = visitsOf(film.programme)
    const changed = await client.get<ProgrammeAnswer>('POST', `/talks/${talk}/programme`, {
      revision: film.programme.revision,
      author,
      edit: { kind: 'move', visit: second?.id, before: first?.id },
    })
    expect(changed.programme.pieces).not.toEqual(film.programme.pieces)
    expect(withProgramme(film, changed.programme)).toEqual(await client.get('GET', `/talks/${talk}/film`))
    expect(changed.history).toEqual(await history(author))
    const undone = await client.get<ProgrammeAnswer>('POST', `/talks/${talk}/programme/back`, { author, role: 'undo' })
    expect(undone).toEqual({ programme: await now(), history: await history(author) })
    expect(undone.programme.pieces).toEqual(film.programme.pieces)
  })

  it('survive the server, and a version that was named can be returned to', async () => {
    const named = await now()
    await client.get('POST', `/talks/${talk}/programme/names`, { revision: named.revision, name: "before the harbour master's wishes" })
    const [, second] = visitsOf(named)
    expect(
      (
        await edit(named.revision, here, {
          kind: 'all',
          edits: [
            { kind: 'move', visit: second?.id ?? named.pieces[0]!.visit, before: null },
            { kind: 'cut', parts: [{ from: 0, to: 500 }] },
          ],
        })
      ).status,
    ).toBe(200)
    await product.kill('server')
    await product.start('server')
    expect((await back(here, 'undo')).status).toBe(200)
    expect((await now()).pieces).toEqual(named.pieces)
    expect((await back(here, 'redo')).status).toBe(200)
    expect((await now()).pieces).not.toEqual(named.pieces)
    expect((await client.ask('POST', `/talks/${talk}/programme/return`, { author: here, revision: named.revision })).status).toBe(200)
    expect((await now()).pieces).toEqual(named.pieces)
    const { changes } = await history(here)
    expect(changes[0]).toMatchObject({ reason: { kind: 'return' } })
    expect(changes.find((change) => change.name !== null)).toMatchObject({
      revision: named.revision,
      name: "before the harbour master's wishes",
    })
    expect((await client.ask('POST', `/talks/${talk}/programme/return`, { author: here, revision: 9999 })).status).toBe(404)
  })

  it('keep what was cut, so that its seam opens again', async () => {
    const before = await now()
    await edit(before.revision, here, {
      kind: 'cut',
      parts: [
        { from: 500, to: 900 },
        { from: 4000, to: 7000 },
      ],
    })
    const cut = await now()
    expect(programmeLength(cut)).toBe(programmeLength(before) - 3400)
    for (const seam of seamsOf(cut).filter((one) => !seamsOf(before).some((old) => old.id === one.id))) {
      expect((await edit((await now()).revision, here, { kind: 'reopen', seam: seam.id })).status).toBe(200)
    }
    expect(programmeLength(await now())).toBe(programmeLength(before))
  })

  it('are refused in words when they make no sense, and change nothing', async () => {
    const { revision } = await now()
    for (const change of [
      { kind: 'cut', parts: [{ from: 800, to: 300 }] },
      { kind: 'cut', parts: [{ from: 0, to: 86_000_000 }] },
      { kind: 'tempo', visits: [], rate: { num: 9, den: 1 } },
      { kind: 'reopen', seam: 'gone' },
      { kind: 'hold', visit: 'gone', length: 500 },
      { kind: 'paint' },
    ]) {
      const answer = await client.ask('POST', `/talks/${talk}/programme`, { revision, author: here, edit: change })
      expect(answer.status, JSON.stringify(change)).toBeGreaterThanOrEqual(400)
      expect(answer.status).toBeLessThan(500)
      expect(sentenceOf(answer.body)).not.toBe('')
    }
    expect((await now()).revision).toBe(revision)
  })
})

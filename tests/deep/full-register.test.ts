import pLimit from 'p-limit'
import Papa from 'papaparse'
import { afterAll, beforeAll, expect, it } from 'vitest'
import type { CallView, RegisterView } from '@contracts'
import { callFields } from '../harness/calls'
import { Client } from '../harness/client'
import { fileForm } from '../harness/decks'
import { toneFile } from '../harness/office-decks'
import { startProduct, until } from '../harness/product'
import type { Product } from '../harness/product'
import { unzipped } from '../harness/unzipped'

const PEOPLE = 300
/** How many hand in at the same moment. */
const AT_ONCE = 12

let product: Product
let teacher: Client
beforeAll(async () => {
  // Each comes from an address of their own, as a proxy of ours says.
  product = await startProduct({ AISLE_TRUSTED_PROXIES: '1' })
  teacher = new Client(product.url)
})
afterAll(async () => {
  await product.stop()
})

it('three hundred people hand in within minutes: every one is taken, listed and taken along', async () => {
  const call = await teacher.get<CallView>(
    'POST',
    '/calls',
    callFields({ rules: { kind: 'talk-rules', version: 1, name: 'a second of sound', length: { most: 5 } } }),
  )
  const sound = await toneFile(1, 440)
  const limit = pLimit(AT_ONCE)
  await Promise.all(
    Array.from({ length: PEOPLE }, (_, n) =>
      limit(async () => {
        const pupil = new Client(product.url)
        const from = { 'x-forwarded-for': `10.0.${String(n >> 8)}.${String(n & 255)}` }
        const begun = await pupil.ask(
          'POST',
          `/entrances/${call.link.split('/').at(-1) ?? ''}/begin`,
          { name: `Swift ${String(n)}`, address: null },
          from,
        )
        const { talk } = begun.body as { talk: string }
        expect((await pupil.ask('POST', `/talks/${talk}/entry/files`, fileForm('swift.m4a', sound))).status).toBe(200)
      }),
    ),
  )
  const { rows } = await until('all of them', async () => {
    const found = await teacher.get<RegisterView>('GET', `/calls/${call.id}/register`)
    return found.rows.every(({ entry }) => entry !== null) && found
  })
  expect(rows).toHaveLength(PEOPLE)
  expect(new Set(rows.map(({ name }) => name)).size).toBe(PEOPLE)
  const files = await unzipped(await teacher.bytes(`/calls/${call.id}/zip`))
  const films = [...files].filter(([name]) => name.endsWith('.m4a'))
  expect(films).toHaveLength(PEOPLE)
  expect(films.every(([, film]) => film.equals(sound))).toBe(true)
  const { data } = Papa.parse<Record<string, string>>(files.get('register.csv')?.toString() ?? '', { header: true, skipEmptyLines: true })
  expect(new Set(data.map((row) => row['file']))).toEqual(new Set(films.map(([name]) => name)))
}, 600_000)

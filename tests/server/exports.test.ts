import { mkdtemp, readFile, rm, stat } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { TalkExportView, TalkView } from '@contracts'
import { probe } from '@render/probe'
import { Client, sentenceOf } from '../harness/client'
import { fileForm } from '../harness/decks'
import { exported, unzippedInto } from '../harness/exports'
import { startProduct } from '../harness/product'
import type { Product } from '../harness/product'
import { broughtInto, heardTalk, knotsTalk } from '../harness/talks'
import { unzipped } from '../harness/unzipped'

let product: Product
let client: Client
let folder: string
let talk: string
beforeAll(async () => {
  product = await startProduct()
  client = new Client(product.url)
  folder = await mkdtemp(join(tmpdir(), 'aisle-along-'))
  talk = await heardTalk(client, 'Knots, round & firm')
})
afterAll(async () => {
  await product.stop()
  await rm(folder, { recursive: true })
})

describe('a folder without internet', () => {
  it('holds the film, the page and all that goes with them, and says when the talk was changed since', async () => {
    await client.get('POST', `/talks/${talk}/share/files`, fileForm('work sheet.txt', Buffer.from('Tie three of them.')))
    const { view, bytes } = await exported(client, talk, { kind: 'bundle', lines: 480 })
    expect(view).toMatchObject({ file: 'aisle-knots-round-firm-without-internet.zip', bytes: bytes.length, current: true, share: 1 })
    const top = await unzippedInto(folder, bytes)
    const film = await probe(join(top, 'film.mp4'))
    expect(film.streams.map(({ codec_name }) => codec_name)).toEqual(expect.arrayContaining(['h264', 'aac', 'mov_text']))
    expect(film.streams[0]?.height).toBe(480)
    expect(Math.abs(Number(film.format.duration) * 1000 - (view.length ?? 0))).toBeLessThan(60)
    const page = await readFile(join(top, 'watch.html'), 'utf8')
    expect(page).toContain('Knots, round &amp; firm')
    expect(page).toMatch(/Turn the rope three times around the post/)
    expect(await readFile(join(top, 'files/work sheet.txt'), 'utf8')).toBe('Tie three of them.')
    expect(await readFile(join(top, 'captions.vtt'), 'utf8')).toMatch(/^WEBVTT/)
    expect(await readFile(join(top, 'transcript.txt'), 'utf8')).toContain('Skerrow harbour')
    expect((await stat(join(top, 'slides.pdf'))).size).toBeGreaterThan(1000)
    // What was written for the presenter alone goes nowhere.
    const { revision, slides } = await client.get<TalkView>('GET', `/talks/${talk}`)
    const fields = { notes: 'Do not forget the blue rope.' }
    await client.get('POST', `/talks/${talk}/deck`, { revision, edit: { kind: 'set', slides: [slides[1]?.id], fields } })
    const [now] = await client.get<TalkExportView[]>('GET', `/talks/${talk}/exports`)
    expect(now?.current).toBe(false)
    const again = await unzipped((await exported(client, talk, { kind: 'small-bundle' })).bytes)
    for (const content of again.values()) expect(content.includes('blue rope')).toBe(false)
  })

  it('is small in its small form: pictures of every step, and the voice as Opus of one channel', async () => {
    const { bytes } = await exported(client, talk, { kind: 'small-bundle' })
    const files = await unzipped(bytes)
    const names = [...files.keys()].map((name) => name.split('/').slice(1).join('/'))
    expect(names).toEqual(expect.arrayContaining(['watch.html', 'voice.webm', 'pictures/p1.jpg']))
    expect(names.some((name) => name.endsWith('.mp4'))).toBe(false)
    const unpacked = [...files.values()].reduce((sum, content) => sum + content.length, 0)
    expect(unpacked).toBeLessThan(4_000_000)
    const top = await unzippedInto(folder, bytes)
    const voice = await probe(join(top, 'voice.webm'))
    expect(voice.streams.map(({ codec_name }) => codec_name)).toEqual(['opus'])
  })

  it('can be made of what was not recorded yet, of nothing it cannot, and is nobody else’s', async () => {
    const { talk: planned } = await knotsTalk(client, 'Not recorded')
    const files = await unzipped((await exported(client, planned, { kind: 'small-bundle' })).bytes)
    expect([...files.keys()].some((name) => name.endsWith('voice.webm'))).toBe(false)
    const { id: empty } = await client.get<{ id: string }>('POST', '/talks', { name: 'Empty', limit: null })
    const refused = await client.ask('POST', `/talks/${empty}/exports`, { kind: 'bundle' })
    expect([refused.status, sentenceOf(refused.body)]).toEqual([409, expect.stringContaining('no slides yet')])
    const wrong = await client.ask('POST', `/talks/${planned}/exports`, { kind: 'everything' })
    expect(wrong.status).toBe(400)
    expect((await client.ask('GET', `/talks/${planned}/exports/bundle/file`)).status).toBe(404)
    await client.get('DELETE', `/talks/${planned}/exports/small-bundle`)
    expect((await client.ask('GET', `/talks/${planned}/exports/small-bundle/file`)).status).toBe(404)
  })
})

describe('a PDF of what was shown', () => {
  it('has every showing with its picture, times, words, notes and links, in an order in which it can be read aloud', async () => {
    const { talk: linked } = await knotsTalk(client, 'Knots with links')
    const { revision } = await client.get<TalkView>('GET', `/talks/${linked}`)
    const deck = '# Learn more\n\nSee the [rope walk](https://ropes.example/walk).\n\n```viewer-notes\nBring a rope.\n```\n'
    await broughtInto(client, linked, 'more.md', Buffer.from(deck))
    const view = await client.get<TalkView>('GET', `/talks/${linked}`)
    expect(view.revision).toBeGreaterThan(revision)
    const { bytes } = await exported(client, linked, { kind: 'shown' })
    const pdf = await getDocument({ data: bytes, useSystemFonts: false }).promise
    expect(await pdf.getMarkInfo()).toMatchObject({ Marked: true })
    const outline = await pdf.getOutline()
    expect(outline.map(({ title }) => title)).toEqual(view.slides.map(({ title }, n) => `${String(n + 1)}  ${title}`))
    const roles: string[] = []
    let text = ''
    const addresses: string[] = []
    for (let n = 1; n <= pdf.numPages; n += 1) {
      const page = await pdf.getPage(n)
      roles.push(...rolesIn(await page.getStructTree()))
      text += (await page.getTextContent()).items.map((item) => ('str' in item ? item.str : '')).join(' ')
      const links = (await page.getAnnotations()) as readonly { readonly url?: string }[]
      addresses.push(...links.flatMap(({ url }) => url ?? []))
    }
    expect(roles.filter((role) => role === 'H2')).toHaveLength(view.slides.length)
    expect(roles.filter((role) => role === 'Figure')).toHaveLength(view.slides.length)
    expect(text).toContain('Knots with links')
    expect(text).toContain('Bring a rope.')
    expect(text).toMatch(/0:00 to \d:\d\d/)
    const { bytes: said } = await exported(client, talk, { kind: 'shown' })
    const spoken = await (await (await getDocument({ data: said }).promise).getPage(1)).getTextContent()
    expect(spoken.items.map((item) => ('str' in item ? item.str : '')).join(' ')).toContain('Skerrow harbour is calm')
    await pdf.destroy()
    expect(addresses.filter((address) => !address.startsWith('https://'))).toEqual([])
  })
})

/** Roles of a page's structure, in the order of reading. */
const rolesIn = (node: unknown): readonly string[] => {
  if (typeof node !== 'object' || node === null) return []
  const { role, children = [] } = node as { readonly role?: string; readonly children?: readonly unknown[] }
  return [...(role === undefined ? [] : [role]), ...children.flatMap(rolesIn)]
}

describe('a narrated deck', () => {
  it('is refused before anything is recorded', async () => {
    const { talk: planned } = await knotsTalk(client, 'No voice')
    await expect(exported(client, planned, { kind: 'narrated-deck' })).rejects.toThrow(/Nothing is recorded yet/)
  })
})

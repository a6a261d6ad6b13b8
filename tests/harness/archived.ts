import { randomUUID } from 'node:crypto'
import { buffer } from 'node:stream/consumers'
import { ZipFile } from 'yazl'
import { visitsOf } from '@core/programme'
import type { FilmView, TalkView } from '@contracts'
import type { Client } from './client'
import { fileForm } from './decks'
import { sendTake, toneRecording, turningFace } from './recording'
import { until } from './run-product'
import { knotsTalk } from './talks'
import { unzipped } from './unzipped'

/** A stroke that takes 400 ms. */
export const WAVE = {
  id: '6d0b8f3a-52f4-4c57-9a5e-0d8f6b1f7a01',
  colour: 'brick',
  width: 'broad',
  pressure: false,
  points: [
    { dt: 0, x: 0.2, y: 0.3, p: 0.5 },
    { dt: 400, x: 0.6, y: 0.5, p: 0.5 },
  ],
}

/** A talk of two recordings with a face, ink, a cut, another tempo and a slide that is held. @returns its id */
export async function editedTalk(client: Client): Promise<string> {
  const { talk: edited, slides } = await knotsTalk(client, 'Knots to keep')
  const [one = '', two = '', three = ''] = slides
  const cues = [
    { kind: 'ink', at: 500, stroke: { ...WAVE, slide: one } },
    { kind: 'show', at: 2500, slide: two, step: 0 },
    { kind: 'inset', at: 3000, on: false },
    { kind: 'show', at: 4200, slide: three, step: 0 },
  ]
  const first = { media: await turningFace(6, 3), length: 6000, slide: one, camera: true, cues }
  const second = { media: await toneRecording(2), length: 2000, slide: three }
  await sendTake(client, edited, 'full', { kind: 'replaceAll' }, [first, second])
  const { programme } = await client.get<FilmView>('GET', `/talks/${edited}/film`)
  const [a, b] = visitsOf(programme)
  const edits = [
    { kind: 'cut', parts: [{ from: 1000, to: 1600 }] },
    { kind: 'tempo', visits: [b?.id], rate: { num: 5, den: 4 } },
    { kind: 'linger', visit: a?.id, length: 700, step: 0 },
  ]
  await client.get('POST', `/talks/${edited}/programme`, {
    revision: programme.revision,
    author: randomUUID(),
    edit: { kind: 'all', edits },
  })
  return edited
}

/** Brings an archive in. @returns the talk that it became, once it is read or refused */
export async function restored(to: Client, archive: Uint8Array): Promise<TalkView> {
  const { id } = await to.get<{ id: string }>('POST', '/talks/archive', fileForm('brought.zip', archive))
  return await until('the archive', async () => {
    const now = await to.get<TalkView>('GET', `/talks/${id}`)
    return ['done', 'failed'].includes(now.imports[0]?.state ?? '') && now
  })
}

/** The same archive with files changed, left out (null) or added. */
export async function changedArchive(archive: Uint8Array, changes: Readonly<Record<string, string | Buffer | null>>): Promise<Buffer> {
  const zip = new ZipFile()
  const files = new Map(await unzipped(archive))
  const top = [...files.keys()][0]?.split('/')[0] ?? ''
  for (const [name, content] of Object.entries(changes)) {
    files.delete(`${top}/${name}`)
    if (content !== null) files.set(`${top}/${name}`, Buffer.from(content))
  }
  for (const [name, content] of files) zip.addBuffer(content, name)
  zip.end()
  return await buffer(zip.outputStream)
}

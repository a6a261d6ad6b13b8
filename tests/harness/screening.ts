import { mkdir, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { ScreeningView, ShareChange, ShareFields, ShareView } from '@contracts'
import type { Client } from './client'

const OPEN: ShareFields = {
  level: 'link',
  presenter: 'Maren Holt',
  description: 'For everybody who ties boats up.',
  handout: true,
  viewerNotes: true,
  film: null,
  questions: true,
  until: null,
  group: null,
  embedOn: [],
  reports: false,
}

/** Opens a talk to whoever has its link. @returns the path of its page, and its key */
export async function shareTalk(client: Client, talk: string, more: Partial<ShareChange> = {}): Promise<{ path: string; key: string }> {
  const { address } = await client.get<ShareView>('PUT', `/talks/${talk}/share`, { ...OPEN, ...more })
  const { pathname } = new URL(address)
  return { path: pathname, key: pathname.split('/')[2] ?? '' }
}

/** What a screening page is told, to somebody who is not signed in. */
export async function screeningOf(url: string, key: string): Promise<ScreeningView> {
  const answer = await fetch(`${url}/api/screenings/${key}`)
  if (!answer.ok) throw new Error(`screening: ${String(answer.status)} ${await answer.text()}`)
  return (await answer.json()) as ScreeningView
}

async function fetched(address: string): Promise<Buffer> {
  const answer = await fetch(address)
  if (!answer.ok) throw new Error(`${address}: ${String(answer.status)}`)
  return Buffer.from(await answer.arrayBuffer())
}

/** Files that a playlist names, the header first. */
const filesIn = (playlist: string): readonly string[] => [
  ...[...playlist.matchAll(/#EXT-X-MAP:URI="([^"]+)"/g)].map(([, file = '']) => file),
  ...playlist.split('\n').filter((line) => line !== '' && !line.startsWith('#')),
]

/** Everything that a screening page may load, as a player puts it together. @returns text of the film, and files of sound and face */
export async function everythingOf(
  url: string,
  { media, face }: Pick<ScreeningView, 'media' | 'face'>,
  folder: string,
): Promise<{ readonly film: string; readonly sound: string; readonly face: string | null }> {
  await mkdir(folder, { recursive: true })
  const at = (name: string): string => `${url}${media}/${name}`
  const track = async (name: string): Promise<string> => {
    const files = filesIn((await fetched(at(`${name}.m3u8`))).toString())
    const path = join(folder, `${name}.mp4`)
    const parts: Buffer[] = []
    for (const file of files) parts.push(await fetched(at(file)))
    await writeFile(path, Buffer.concat(parts))
    return path
  }
  const main = (await fetched(at('main.m3u8'))).toString()
  if (main.includes('face.m3u8') !== face) throw new Error('the main playlist and the page do not agree on the face')
  return { film: (await fetched(at('film.json'))).toString(), sound: await track('sound'), face: face ? await track('face') : null }
}

import { mkdir, writeFile } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import type { ExportWish, TalkExportView } from '@contracts'
import type { Client } from './client'
import { until } from './run-product'
import { unzipped } from './unzipped'

/** Has something made of a talk, and waits for it. @returns what is said of it, and its bytes @throws Error with why it failed */
export async function exported(
  client: Client,
  talk: string,
  wish: Partial<ExportWish> & Pick<ExportWish, 'kind'>,
): Promise<{ readonly view: TalkExportView; readonly bytes: Uint8Array }> {
  await client.get('POST', `/talks/${talk}/exports`, wish)
  const view = await until(`the ${wish.kind}`, async () => {
    const found = (await client.get<TalkExportView[]>('GET', `/talks/${talk}/exports`)).find(({ kind }) => kind === wish.kind)
    if (found?.state === 'failed') throw new Error(`the ${wish.kind} was not made: ${found.sentence ?? ''}`)
    return found?.state === 'done' && found
  })
  return { view, bytes: await client.bytes(`/talks/${talk}/exports/${wish.kind}/file`) }
}

/** Writes what is in a zip into a folder. @returns the folder in it that all of it stands in */
export async function unzippedInto(folder: string, zipped: Uint8Array): Promise<string> {
  let top = ''
  for (const [name, content] of await unzipped(zipped)) {
    const path = join(folder, name)
    await mkdir(dirname(path), { recursive: true })
    await writeFile(path, content)
    top = join(folder, name.split('/')[0] ?? '')
  }
  return top
}

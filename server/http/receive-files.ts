import { randomUUID } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { mkdir, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { pipeline } from 'node:stream/promises'
import busboy from 'busboy'
import type { H3Event } from 'h3'
import { Refusal } from '@core/model'
import type { Uploaded } from '@server/domain'
import { settings } from '@server/settings'
import { uploadFolder } from '@server/store'

const MOST_FILES = 500

const plainName = (name = ''): string => (name.split(/[/\\]/).at(-1) ?? '').replace(/\p{Cc}/gu, '').slice(0, 200) || 'file'

/**
 * Receives the files of a form straight onto the disk, never more than is allowed.
 * @throws Refusal `too-large`; nothing that arrived is kept then
 */
export async function receiveFiles(event: H3Event): Promise<readonly Uploaded[]> {
  const folder = uploadFolder()
  await mkdir(folder, { recursive: true })
  const limit = settings().maxUpload
  const received: Uploaded[] = []
  const writing: Promise<void>[] = []
  let total = 0
  let refused: Refusal | null = null
  const tooLarge = (): Refusal => new Refusal('too-large', `Files up to ${String(Math.round(limit / 1_048_576))} MB together can be brought in. Nothing was changed; make the pictures smaller or bring the deck in parts.`)
  try {
    await new Promise<void>((resolve, reject) => {
      let form: busboy.Busboy
      try {
        form = busboy({ headers: event.node.req.headers, defParamCharset: 'utf8', limits: { files: MOST_FILES, fileSize: limit, fields: 10 } })
      } catch {
        reject(new Refusal('malformed', 'No file arrived.'))
        return
      }
      form.on('file', (_field, stream, info) => {
        const path = join(folder, randomUUID())
        let bytes = 0
        stream.on('data', (data: Buffer) => {
          bytes += data.length
          total += data.length
          if (total > limit) refused ??= tooLarge()
        })
        stream.on('limit', () => { refused ??= tooLarge() })
        writing.push(pipeline(stream, createWriteStream(path)).then(() => { received.push({ path, name: plainName(info.filename), bytes }) }))
      })
      form.on('filesLimit', () => { refused ??= new Refusal('too-large', `Up to ${String(MOST_FILES)} files can be brought in at once.`) })
      form.on('error', () => { reject(new Refusal('malformed', 'The file arrived damaged. Try again.')) })
      form.on('close', () => { resolve() })
      event.node.req.on('aborted', () => { reject(new Refusal('malformed', 'The transfer was broken off. Nothing was changed.')) })
      event.node.req.pipe(form)
    })
    await Promise.all(writing)
    if (refused !== null) throw refused as Refusal
    return received
  } catch (error) {
    await Promise.allSettled(writing)
    await Promise.all(received.map((file) => rm(file.path, { force: true })))
    throw error
  }
}

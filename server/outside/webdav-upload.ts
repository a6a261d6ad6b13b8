import { createReadStream } from 'node:fs'
import { Transform, pipeline } from 'node:stream'
import type { Readable } from 'node:stream'
import { AuthType, createClient } from 'webdav'
import type { FileStat, WebDAVClient } from 'webdav'
import { guardedAgents } from './guarded-agents'
import type { SignIn } from './sign-in'

/** A file that is put into a folder that speaks WebDAV. */
export interface WebdavOrder extends SignIn {
  /** What the file is to be called there. */
  readonly name: string
  /** Tells what is unfinished of it from what is of another file of that name. */
  readonly mark: string
  readonly path: string
  readonly bytes: number
  readonly signal: AbortSignal
  readonly onProgress: (sent: number) => void
  /** Asked once all of it is there, before it gets its name. @throws Error when it is not wanted any more; it can be gone on with */
  readonly stillWanted: () => Promise<void>
}

/** Most files of one name in a folder. */
const MOST_OF_A_NAME = 100

const clientOf = ({ address, user, word }: SignIn): WebDAVClient => {
  const { http, https } = guardedAgents()
  return createClient(address, {
    httpAgent: http,
    httpsAgent: https,
    ...(user === '' ? {} : { authType: AuthType.Auto, username: user, password: word }),
  })
}

/** Bytes of a file there; null: there is none. */
async function sizeThere(client: WebDAVClient, name: string): Promise<number | null> {
  if (!(await client.exists(name))) return null
  const stat = (await client.stat(name)) as FileStat
  return stat.size
}

/** Tells how much of a file went by. @param from bytes that were there before */
function counted(path: string, from: number, onProgress: (sent: number) => void): Readable {
  let sent = from
  const counter = new Transform({
    transform(chunk: Buffer, _, done) {
      sent += chunk.length
      onProgress(sent)
      done(null, chunk)
    },
  })
  // Whoever reads it hears of an error of the file.
  pipeline(createReadStream(path, { start: from }), counter, () => undefined)
  return counter
}

/** A name that is free there: a file of somebody's is never written over. */
async function freeNameThere(client: WebDAVClient, name: string): Promise<string> {
  const dot = name.lastIndexOf('.')
  const [stem, ending] = dot > 0 ? [name.slice(0, dot), name.slice(dot)] : [name, '']
  for (let n = 1; n <= MOST_OF_A_NAME; n += 1) {
    const wanted = n === 1 ? name : `${stem}-${String(n)}${ending}`
    if (!(await client.exists(`/${wanted}`))) return wanted
  }
  throw new Error(`there are ${String(MOST_OF_A_NAME)} files of that name`)
}

/** Looks whether a folder is there and lets this one in. @throws Error when it does not */
export async function tryWebdav(folder: SignIn): Promise<void> {
  await clientOf(folder).getDirectoryContents('/')
}

/**
 * Puts a file into a folder. It is called otherwise until it is whole. What an earlier attempt left is gone on with where the server
 * can (the partial update of its PATCH, told among its `DAV` classes); elsewhere it is begun again.
 * @returns what it is called there
 * @throws Error when the other side refuses or stays away
 */
export async function webdavUpload(order: WebdavOrder): Promise<string> {
  const { name, mark, path, bytes, signal, onProgress, stillWanted } = order
  const client = clientOf(order)
  // How one signs in there is settled before a stream is sent, which can be read only once.
  await client.getDirectoryContents('/')
  const part = `/${name}.${mark}.part`
  const there = (await sizeThere(client, part)) ?? 0
  const { compliance } = await client.getDAVCompliance('/')
  const from = compliance.includes('sabredav-partialupdate') && there < bytes ? there : 0
  const options = { signal, headers: { 'Content-Length': String(bytes - from) } }
  if (there !== bytes) {
    const stream = counted(path, from, onProgress)
    if (from > 0) await client.partialUpdateFileContents(part, from, bytes - 1, stream, options)
    else await client.putFileContents(part, stream, { ...options, overwrite: true })
  }
  const arrived = await sizeThere(client, part)
  if (arrived !== bytes) {
    await client.deleteFile(part)
    throw new Error(`${String(arrived ?? 0)} of ${String(bytes)} bytes arrived`)
  }
  await stillWanted()
  const free = await freeNameThere(client, name)
  await client.moveFile(part, `/${free}`)
  return free
}

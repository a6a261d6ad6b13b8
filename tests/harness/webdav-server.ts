import { mkdtemp, open } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { v2 as webdav } from 'webdav-server'

/** A folder that speaks WebDAV, on loopback. */
export interface WebdavServer {
  readonly address: string
  /** Where its files lie. */
  readonly folder: string
  readonly close: () => Promise<void>
}

/** Writes a part of a file that is there, as the partial update of a PATCH says. */
class PartialUpdate implements webdav.HTTPMethod {
  readonly #folder: string
  constructor(folder: string) {
    this.#folder = folder
  }

  unchunked(ctx: webdav.HTTPRequestContext, data: Buffer, done: () => void): void {
    const [, first = '0'] = /^bytes=(\d+)-/.exec(String(ctx.headers.find('x-update-range'))) ?? []
    const write = async (): Promise<void> => {
      const file = await open(join(this.#folder, decodeURIComponent(ctx.requested.uri)), 'r+')
      await file.write(data, 0, data.length, Number(first))
      await file.close()
      ctx.setCode(204)
    }
    write().then(done, () => {
      ctx.setCode(500)
      done()
    })
  }

  isValidFor(): boolean {
    return true
  }
}

/** Starts one that lets in whoever has the name and the word. @param partial whether it takes parts of files */
export async function startWebdav(name: string, word: string, partial: boolean): Promise<WebdavServer> {
  const folder = await mkdtemp(join(tmpdir(), 'aisle-webdav-'))
  const users = new webdav.SimpleUserManager()
  const user = users.addUser(name, word, false)
  const rights = new webdav.SimplePathPrivilegeManager()
  rights.setRights(user, '/', ['all'])
  const server = new webdav.WebDAVServer({
    port: 0,
    hostname: '127.0.0.1',
    httpAuthentication: new webdav.HTTPBasicAuthentication(users, 'harbour'),
    privilegeManager: rights,
  })
  await server.setFileSystemAsync('/', new webdav.PhysicalFileSystem(folder))
  if (partial) {
    server.method('PATCH', new PartialUpdate(folder))
    server.beforeRequest((ctx, next) => {
      ctx.response.setHeader('DAV', '1,2,sabredav-partialupdate')
      next()
    })
  }
  const http = await server.startAsync(0)
  const bound = http.address()
  return {
    address: `http://127.0.0.1:${String(typeof bound === 'object' && bound !== null ? bound.port : 0)}/`,
    folder,
    close: () => server.stopAsync(),
  }
}

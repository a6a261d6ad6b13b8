import { mkdtemp, rm } from 'node:fs/promises'
import type { Server } from 'node:http'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { serveStandIns } from '../../stand-ins/serve'

/** The hand-in desk and the practice site, for the tests of a file. */
export interface StandInsRunning {
  readonly server: Server
  readonly address: string
  readonly close: () => Promise<void>
}

/** Serves them on any port, from a folder of their own. @param order what is otherwise, such as the desk's rules */
export async function startStandIns(order: Partial<Parameters<typeof serveStandIns>[0]> = {}): Promise<StandInsRunning> {
  const folder = await mkdtemp(join(tmpdir(), 'aisle-stand-ins-'))
  const { server, address } = await serveStandIns({ folder, port: 0, ...order })
  return {
    server,
    address,
    close: async () => {
      server.closeAllConnections()
      await new Promise((resolve) => {
        server.close(resolve)
      })
      await rm(folder, { recursive: true, force: true })
    },
  }
}

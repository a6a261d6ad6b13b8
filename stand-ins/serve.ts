import { createServer } from 'node:http'
import type { Server } from 'node:http'
import { join } from 'node:path'
import type { Rules } from '@core/rules'
import { desk } from './desk/desk'
import { DESK_RULES } from './desk/rules'
import { listenOnLoopback } from './listen'
import { Service } from './service'
import { SITE } from './site/site'

/** Where and how the stand-ins run. */
export interface StandInsOrder {
  /** What they were given is kept here. */
  readonly folder: string
  /** Where they listen on loopback. With 0, on any port that is free. */
  readonly port: number
  /** Left out: those of the meeting that ships. */
  readonly rules?: Rules
}

/** Serves the hand-in desk and the practice site on loopback. @returns the server once it listens, and its address */
export async function serveStandIns({ folder, port, rules = DESK_RULES }: StandInsOrder): Promise<{ server: Server; address: string }> {
  const services = [new Service(desk(rules, Date.now), join(folder, 'desk')), new Service(SITE, join(folder, 'site'))]
  for (const service of services) await service.open()
  const server = createServer((request, response) => {
    const answer = async (): Promise<void> => {
      for (const service of services) if (await service.answer(request, response)) return
      response.writeHead(404, { 'content-type': 'text/plain' }).end('There is nothing here.')
    }
    answer().catch((error: unknown) => {
      console.error('a stand-in could not answer', error)
      if (!response.headersSent) response.writeHead(500)
      response.end()
    })
  })
  return { server, address: await listenOnLoopback(server, port) }
}

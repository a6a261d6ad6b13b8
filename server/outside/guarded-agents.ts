import { lookup } from 'node:dns'
import { Agent as HttpAgent } from 'node:http'
import type { AgentOptions } from 'node:http'
import { Agent as HttpsAgent } from 'node:https'
import { isIP } from 'node:net'
import type { LookupFunction } from 'node:net'
import ipaddr from 'ipaddr.js'
import { Refusal } from '@core/model'
import { settings } from '@server/settings'

/** A connection that is dead is noticed after so long, in ms. */
const SILENT = 60_000

/** Whether an address belongs to anybody's network but the open one: loopback, private, link-local, reserved (RFC 6890). */
const isPrivate = (address: string): boolean => ipaddr.process(address).range() !== 'unicast'

/** Whether a host and port are those of the stand-ins that ship with the product. */
function isStandIn(host: string, port: number): boolean {
  const { standIns } = settings()
  if (standIns === null) return false
  const url = new URL(standIns)
  return url.hostname === host && Number(url.port) === port
}

const refused = (host: string): Refusal =>
  new Refusal(
    'not-allowed',
    `${host} is inside a private network, and files are not sent there from here. ` +
      'Whoever runs this server can allow it with AISLE_PRIVATE_PLACES.',
  )

/** Looks a name up and gives back only addresses of the open network, so that what was looked at is what is connected to. */
const openLookup: LookupFunction = (host, options, callback) => {
  lookup(host, { ...options, all: true }, (error, found) => {
    if (error !== null) {
      callback(error, [])
      return
    }
    const open = found.filter(({ address }) => !isPrivate(address))
    const [first] = open
    if (first === undefined) callback(refused(host), [])
    else if (options.all === true) callback(null, open)
    else callback(null, first.address, first.family)
  })
}

/** Options of a connection to a host, held to the open network unless the operator said otherwise. @throws Refusal `not-allowed` */
export function guarded(host: string, port: number): { readonly lookup?: LookupFunction } {
  if (settings().privatePlaces || isStandIn(host, port)) return {}
  const bare = host.replace(/^\[|\]$/g, '')
  if (isIP(bare) !== 0 && isPrivate(bare)) throw refused(host)
  return { lookup: openLookup }
}

/** An agent that asks before every connection, so redirects are asked about as well. */
class GuardedHttp extends HttpAgent {
  override createConnection(...[options, done]: Parameters<HttpAgent['createConnection']>): ReturnType<HttpAgent['createConnection']> {
    return super.createConnection({ ...options, ...guarded(options.host ?? '', Number(options.port)) }, done)
  }
}
class GuardedHttps extends HttpsAgent {
  override createConnection(...[options, done]: Parameters<HttpsAgent['createConnection']>): ReturnType<HttpsAgent['createConnection']> {
    return super.createConnection({ ...options, ...guarded(options.host ?? '', Number(options.port)) }, done)
  }
}

const OPTIONS: AgentOptions = { timeout: SILENT }
const agents = { http: new GuardedHttp(OPTIONS), https: new GuardedHttps(OPTIONS) } as const

/** Agents for all that is asked of addresses that people name. */
export const guardedAgents = (): typeof agents => agents
/** The one for an address. */
export const agentFor = (address: string): HttpAgent | HttpsAgent => (address.startsWith('https:') ? agents.https : agents.http)

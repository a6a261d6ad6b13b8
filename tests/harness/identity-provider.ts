import { createServer } from 'node:http'
import { Provider } from 'oidc-provider'
import { listenOnLoopback } from '../../stand-ins/listen'

/** Somebody whom a provider of identities knows. */
export interface KnownThere {
  readonly name: string
  readonly email: string
  readonly email_verified: boolean
}

/** A provider of identities on loopback (OpenID Connect), and a browser that goes there. */
export interface IdentityProvider {
  /** What the product is set to. */
  readonly settings: Readonly<Record<string, string>>
  /** Where people are sent back to has to be known to it before. */
  readonly sendsBackTo: (product: string) => void
  /**
   * Goes from the product to the provider and back, as a browser does.
   * @param as whom, by the name that they sign in with there
   * @returns where it ends, and the product's cookies then
   */
  readonly go: (product: string, as: string) => Promise<{ readonly path: string; readonly cookie: string }>
  readonly close: () => Promise<void>
}

const CLIENT = { client_id: 'aisle', client_secret: 'a secret of the two of them' }

/** Cookies that each host gave. */
class Jar {
  readonly #of = new Map<string, Map<string, string>>()
  readonly sent = (host: string): string => [...(this.#of.get(host) ?? [])].map(([name, value]) => `${name}=${value}`).join('; ')

  take(host: string, answer: Response): void {
    const own = this.#of.get(host) ?? new Map<string, string>()
    this.#of.set(host, own)
    for (const set of answer.headers.getSetCookie()) {
      const [name = '', value = ''] = (set.split(';')[0] ?? '').split(/=(.*)/)
      if (value === '' || /expires=Thu, 01 Jan 1970/i.test(set)) own.delete(name)
      else own.set(name, value)
    }
  }
}

/** Starts one. @param people by the names that they sign in with there */
export async function startIdentityProvider(people: Readonly<Record<string, KnownThere>>): Promise<IdentityProvider> {
  let handle: ReturnType<Provider['callback']> = () => Promise.resolve()
  const server = createServer((request, response) => void handle(request, response))
  const issuer = await listenOnLoopback(server, 0)
  const sendsBackTo = (product: string): void => {
    const provider = new Provider(issuer, {
      clients: [{ ...CLIENT, redirect_uris: [`${product}/api/identity/back`], token_endpoint_auth_method: 'client_secret_post' }],
      claims: { email: ['email', 'email_verified'], profile: ['name'] },
      findAccount: (_, id) => ({ accountId: id, claims: () => ({ sub: id, ...people[id] }) }),
      cookies: { keys: ['for tests alone'] },
    })
    handle = provider.callback()
  }

  const go: IdentityProvider['go'] = async (product, as) => {
    const jar = new Jar()
    const ask = async (address: URL, form?: Readonly<Record<string, string>>): Promise<Response> => {
      const answer = await fetch(address, {
        redirect: 'manual',
        headers: { cookie: jar.sent(address.host) },
        ...(form === undefined ? {} : { method: 'POST', body: new URLSearchParams(form) }),
      })
      jar.take(address.host, answer)
      return answer
    }
    let address = new URL(`${product}/api/identity/begin?to=/series`)
    let answer = await ask(address)
    for (let n = 0; n < 20; n += 1) {
      const to = answer.headers.get('location')
      if (to !== null) {
        address = new URL(to, address)
        if (address.origin === product && !address.pathname.startsWith('/api/'))
          return { path: `${address.pathname}${decodeURIComponent(address.hash)}`, cookie: jar.sent(address.host) }
        answer = await ask(address)
        continue
      }
      const page = await answer.text()
      const prompt = /name="prompt" value="(\w+)"/.exec(page)?.[1]
      const action = /<form[^>]*action="([^"]+)"/.exec(page)?.[1]
      if (prompt === undefined || action === undefined) throw new Error(`nothing leads on from ${address.href}: ${page.slice(0, 300)}`)
      address = new URL(action, address)
      answer = await ask(address, { prompt, login: as, password: 'any' })
    }
    throw new Error('the way to the provider has no end')
  }

  return {
    settings: {
      AISLE_OIDC_ISSUER: issuer,
      AISLE_OIDC_CLIENT: CLIENT.client_id,
      AISLE_OIDC_SECRET: CLIENT.client_secret,
      AISLE_OIDC_NAME: 'Harbour school',
    },
    sendsBackTo,
    go,
    close: () =>
      new Promise((resolve) => {
        server.closeAllConnections()
        server.close(() => {
          resolve()
        })
      }),
  }
}

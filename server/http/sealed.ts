import { useSession } from 'h3'
import type { H3Event, SessionManager } from 'h3'
import { settings } from '@server/settings'

/** What lies sealed in somebody's own browser, under a name. */
export interface Sealed {
  readonly name: string
  /** So long it is kept, in s. */
  readonly maxAge: number
}

/** Whether a browser brings something under a name: nothing is put into that of somebody who does not. */
export const isBrought = (event: H3Event, { name }: Sealed): boolean => (event.node.req.headers.cookie ?? '').includes(`${name}=`)

/** Opens what is sealed in a browser, or begins it. */
export const sealed = <Known extends object>(event: H3Event, { name, maxAge }: Sealed): Promise<SessionManager<Known>> =>
  useSession<Known>(event, {
    name,
    password: settings().secret,
    maxAge,
    cookie: { httpOnly: true, sameSite: 'lax', path: '/', secure: settings().publicAddress.startsWith('https:') },
  })

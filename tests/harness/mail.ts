import { once } from 'node:events'
import { SMTPServer } from 'smtp-server'
import { freePort } from './run-product'

/** A letter as a mail server took it. */
export interface Mail {
  readonly to: readonly string[]
  /** Head and body as they came. */
  readonly text: string
}

/** A mail server on loopback. */
export interface MailServer {
  readonly url: string
  readonly taken: readonly Mail[]
  readonly close: () => Promise<void>
}

/** Starts a mail server that takes what is sent, but for addresses whose names begin with `nobody`. */
export async function startMailServer(): Promise<MailServer> {
  const taken: Mail[] = []
  const server = new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS', 'AUTH'],
    onRcptTo: ({ address }, _session, done) => {
      const unknown = Object.assign(new Error('No such mailbox'), { responseCode: 550 })
      done(address.startsWith('nobody') ? unknown : null)
    },
    onData: (stream, session, done) => {
      const parts: Buffer[] = []
      stream.on('data', (part: Buffer) => parts.push(part))
      stream.on('end', () => {
        taken.push({ to: session.envelope.rcptTo.map(({ address }) => address), text: Buffer.concat(parts).toString() })
        done()
      })
    },
  })
  const port = await freePort()
  const listening = server.listen(port, '127.0.0.1')
  await once(listening, 'listening')
  return {
    url: `smtp://127.0.0.1:${String(port)}`,
    taken,
    close: () =>
      new Promise((resolve) => {
        server.close(() => {
          resolve()
        })
      }),
  }
}

/** Text of a letter as it is read (RFC 2045, 6.7). */
export const readable = (text: string): string =>
  text.replaceAll(/=\r?\n/g, '').replaceAll(/=([0-9A-F]{2})/g, (_, hex: string) => String.fromCharCode(parseInt(hex, 16)))

import type { TalkEvent } from '@contracts'

/** A person's session with the product, as their browser keeps it. */
export class Client {
  readonly #url: string
  readonly #cookies = new Map<string, string>()

  constructor(url: string) {
    this.#url = url
  }

  #sent(): Record<string, string> {
    const cookie = [...this.#cookies].map(([name, value]) => `${name}=${value}`).join('; ')
    return cookie === '' ? {} : { cookie }
  }

  /** Takes over cookies that were given elsewhere, as a browser sends them. */
  take(cookies: string): void {
    for (const cookie of cookies.split('; ')) {
      const [name = '', value = ''] = cookie.split(/=(.*)/)
      this.#cookies.set(name, value)
    }
  }

  /** Asks and gives status and answer as they are. */
  async ask(
    method: string,
    path: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ): Promise<{ readonly status: number; readonly body: unknown }> {
    const raw = body instanceof FormData || body instanceof Uint8Array ? body : null
    const answer = await fetch(`${this.#url}/api${path}`, {
      method,
      headers: {
        ...this.#sent(),
        ...(raw !== null || body === undefined ? {} : { 'content-type': 'application/json' }),
        ...headers,
      },
      ...(body === undefined ? {} : { body: raw ?? JSON.stringify(body) }),
    })
    for (const set of answer.headers.getSetCookie()) {
      const [name = '', value = ''] = (set.split(';')[0] ?? '').split(/=(.*)/)
      this.#cookies.set(name, value)
    }
    const text = await answer.text()
    try {
      return { status: answer.status, body: JSON.parse(text) as unknown }
    } catch {
      return { status: answer.status, body: text }
    }
  }

  /** Sends a body as it comes. @returns the answer's status */
  async send(method: string, path: string, body: ReadableStream<Uint8Array>, type: string): Promise<number> {
    const headers = { ...this.#sent(), 'content-type': type }
    // A body that comes by and by is sent while the answer is waited for (Fetch, RequestDuplex).
    const answer = await fetch(`${this.#url}/api${path}`, { method, headers, body, duplex: 'half' } as RequestInit)
    await answer.arrayBuffer()
    return answer.status
  }

  /** The bytes under an address. */
  async bytes(path: string): Promise<Uint8Array> {
    const answer = await fetch(`${this.#url}/api${path}`, { headers: this.#sent() })
    if (!answer.ok) throw new Error(`GET ${path}: ${String(answer.status)}`)
    return new Uint8Array(await answer.arrayBuffer())
  }

  /** Opens the line on which changes are told. @returns what was heard so far, in order, and what ends it */
  async listen(): Promise<{ readonly heard: readonly TalkEvent[]; readonly end: () => void }> {
    const stop = new AbortController()
    const answer = await fetch(`${this.#url}/api/events`, { headers: this.#sent(), signal: stop.signal })
    const heard: TalkEvent[] = []
    const read = async (): Promise<void> => {
      let text = ''
      for await (const part of answer.body ?? []) {
        text += Buffer.from(part as Uint8Array).toString()
        for (let end = text.indexOf('\n\n'); end !== -1; end = text.indexOf('\n\n')) {
          const data = /^data: (\{.*)$/m.exec(text.slice(0, end))?.[1]
          if (data !== undefined) heard.push(JSON.parse(data) as TalkEvent)
          text = text.slice(end + 2)
        }
      }
    }
    read().catch(() => undefined)
    return {
      heard,
      end: () => {
        stop.abort()
      },
    }
  }

  /** Asks and expects to be answered. */
  async get<Answer>(method: string, path: string, body?: unknown): Promise<Answer> {
    const { status, body: answer } = await this.ask(method, path, body)
    if (status >= 300) throw new Error(`${method} ${path}: ${String(status)} ${JSON.stringify(answer)}`)
    return answer as Answer
  }
}

/** What the product says when it refuses. */
export const sentenceOf = (body: unknown): string => (body as { error?: { sentence?: string } }).error?.sentence ?? ''

import type { Row } from './row'
import { during } from './server-away'
import { told } from './watched-take'

/** Has a page's requests with chunks pass through a bad line: `send` takes each chunk alone, as often and in whatever order it likes. */
const badLine = (way: string): string => `{
  const real = window.fetch.bind(window)
  window.badLine = { requests: 0 }
  window.fetch = async (input, init) => {
    const url = typeof input === 'string' ? input : input.url
    if (!/\\/chunks\\/\\d+$/.test(url)) return await real(input, init)
    window.badLine.requests += 1
    const headers = new Headers(init.headers)
    const parts = headers.get('x-aisle-chunks').split(',')
    const first = Number(url.split('/').at(-1))
    const bytes = new Uint8Array(await init.body.arrayBuffer())
    let at = 0
    const chunks = parts.map((part, n) => {
      const length = Number(part.split(':')[0])
      at += length
      return { url: url.replace(/\\d+$/, String(first + n)), part, bytes: bytes.slice(at - length, at) }
    })
    const send = (chunk, cut = 0) => real(chunk.url, { ...init, headers: { ...Object.fromEntries(headers),
      'x-aisle-chunks': chunk.part }, body: new Blob([chunk.bytes.slice(0, chunk.bytes.length - cut)]) })
    ${way}
  }
}`

export const sentTwiceAndShuffled = (): Promise<Row> =>
  during({
    fault: 'every chunk sent twice and shuffled',
    scripts: [
      badLine(`
    const twice = [...chunks, ...chunks].map((chunk) => ({ chunk, rank: Math.random() })).sort((a, b) => a.rank - b.rank)
    let answer
    for (const { chunk } of twice) answer = await send(chunk)
    return answer`),
    ],
    go: async (_stand, { page }) => told(page),
  })

export const cutShort = (): Promise<Row> =>
  during({
    fault: 'every third request with its last chunk cut short',
    scripts: [
      badLine(`
    if (window.badLine.requests % 3 !== 0) return await real(input, init)
    let answer
    for (const [n, chunk] of chunks.entries()) answer = await send(chunk, n === chunks.length - 1 ? 7 : 0)
    return answer`),
    ],
    go: async (_stand, { page }) => told(page),
  })

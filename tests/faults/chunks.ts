import type { Row } from './row'
import { during } from './server-away'
import { told } from './watched-take'

/** Has a page's requests with slices pass through a bad line: `send` takes each slice alone, as often and in whatever order it likes. */
const badLine = (way: string): string => `{
  const real = window.fetch.bind(window)
  window.badLine = { requests: 0 }
  window.fetch = async (input, init) => {
    const url = typeof input === 'string' ? input : input.url
    if (!/\\/slices\\/\\d+$/.test(url)) return await real(input, init)
    window.badLine.requests += 1
    const headers = new Headers(init.headers)
    const parts = headers.get('x-aisle-slices').split(',')
    const first = Number(url.split('/').at(-1))
    const bytes = new Uint8Array(await init.body.arrayBuffer())
    let at = 0
    const slices = parts.map((part, n) => {
      const length = Number(part.split(':')[0])
      at += length
      return { url: url.replace(/\\d+$/, String(first + n)), part, bytes: bytes.slice(at - length, at) }
    })
    const send = (slice, cut = 0) => real(slice.url, { ...init, headers: { ...Object.fromEntries(headers),
      'x-aisle-slices': slice.part }, body: new Blob([slice.bytes.slice(0, slice.bytes.length - cut)]) })
    ${way}
  }
}`

export const sentTwiceAndShuffled = (): Promise<Row> =>
  during({
    fault: 'every slice sent twice and shuffled',
    scripts: [
      badLine(`
    const twice = [...slices, ...slices].map((slice) => ({ slice, rank: Math.random() })).sort((a, b) => a.rank - b.rank)
    let answer
    for (const { slice } of twice) answer = await send(slice)
    return answer`),
    ],
    go: async (_stand, { page }) => told(page),
  })

export const cutShort = (): Promise<Row> =>
  during({
    fault: 'every third request with its last slice cut short',
    scripts: [
      badLine(`
    if (window.badLine.requests % 3 !== 0) return await real(input, init)
    let answer
    for (const [n, slice] of slices.entries()) answer = await send(slice, n === slices.length - 1 ? 7 : 0)
    return answer`),
    ],
    go: async (_stand, { page }) => told(page),
  })

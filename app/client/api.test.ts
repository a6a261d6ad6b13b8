import { afterEach, describe, expect, it, vi } from 'vitest'
import { Refusal } from '@core/model'
import { api, sentenceOf } from './api'

const answers = (body: unknown, status: number): void => {
  vi.stubGlobal(
    'fetch',
    vi.fn(() => Promise.resolve(new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json' } }))),
  )
}
const refusalOf = async (asking: Promise<unknown>): Promise<Refusal> => {
  const error: unknown = await asking.catch((fault: unknown) => fault)
  if (!(error instanceof Refusal)) throw new Error(`this is no refusal: ${String(error)}`)
  return error
}
afterEach(() => {
  vi.unstubAllGlobals()
})

describe('what the server answers', () => {
  it('is given as it came', async () => {
    answers({ id: 'talk' }, 200)
    expect(await api.get('/talks/talk')).toEqual({ id: 'talk' })
    expect(vi.mocked(fetch).mock.lastCall?.[0]).toBe('/api/talks/talk')
  })

  it('is a refusal with its own sentence when it refuses', async () => {
    answers({ error: { code: 'conflict', sentence: 'This slide was changed on another page.', detail: { slide: 3 } } }, 409)
    const refusal = await refusalOf(api.post('/talks/talk/deck', {}))
    expect([refusal.code, refusal.message, refusal.detail]).toEqual(['conflict', 'This slide was changed on another page.', { slide: 3 }])
  })

  it('is said in our words when it is no answer of ours, or there is none, and asked for once', async () => {
    answers('<html>', 502)
    expect(sentenceOf(await refusalOf(api.get('/talks')))).toMatch(/^The server could not do this/)
    const gone = vi.fn(() => Promise.reject(new TypeError('network')))
    vi.stubGlobal('fetch', gone)
    expect((await refusalOf(api.delete('/talks/talk'))).code).toBe('unavailable')
    expect(gone).toHaveBeenCalledTimes(1)
  })

  it('that is a fault of ours is told to the browser, not to the person', () => {
    const told = vi.fn()
    vi.stubGlobal('reportError', told)
    expect(sentenceOf(new RangeError('inside'))).toBe('Something went wrong. Nothing that was there before has changed.')
    expect(told).toHaveBeenCalledTimes(1)
  })
})

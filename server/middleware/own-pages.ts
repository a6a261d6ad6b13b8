import { defineEventHandler, getRequestHeader, getRequestURL, setResponseHeaders, setResponseStatus } from 'h3'
import { settings } from '@server/settings'

const LOOPBACK = /^(localhost|127(\.\d+){3}|\[::1\])(:\d+)?$/

/**
 * Only our own pages may change anything, and without accounts only this machine's names are answered at all: a page
 * from elsewhere that has its name point here would otherwise be the presenter.
 */
export default defineEventHandler((event) => {
  setResponseHeaders(event, { 'x-content-type-options': 'nosniff', 'referrer-policy': 'same-origin', 'x-frame-options': 'SAMEORIGIN' })
  if (!event.path.startsWith('/api/')) return
  const { host } = getRequestURL(event)
  const publicHost = new URL(settings().publicAddress).host
  const origin = getRequestHeader(event, 'origin')
  const foreignHost = settings().accounts === 'off' && !LOOPBACK.test(host) && host !== publicHost
  const foreignOrigin = event.method !== 'GET' && event.method !== 'HEAD' && origin !== undefined && ![host, publicHost].includes(URL.canParse(origin) ? new URL(origin).host : '')
  if (foreignHost || foreignOrigin) {
    setResponseStatus(event, 403)
    return { error: { code: 'not-allowed', sentence: 'This is not one of this server\'s own pages.', detail: {} } }
  }
})

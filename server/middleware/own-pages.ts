import { defineEventHandler, getRequestHeader, getRequestURL, setResponseHeaders, setResponseStatus } from 'h3'
import { isLoopback, settings } from '@server/settings'

/** The name of a host without its port and brackets. */
const nameOf = (host: string): string => host.replace(/:\d+$/, '').replace(/^\[|\]$/g, '')

/** What every answer says of how it may be used. Pages add what they may load; see the plugin that does. */
function headersFor(address: string): Record<string, string> {
  return {
    'x-content-type-options': 'nosniff',
    'referrer-policy': 'same-origin',
    'x-frame-options': 'SAMEORIGIN',
    'cross-origin-opener-policy': 'same-origin',
    'permissions-policy':
      'camera=(self), microphone=(self), display-capture=(self), fullscreen=(self), screen-wake-lock=(self), geolocation=(), ' +
      'payment=(), usb=(), serial=(), midi=()',
    ...(address.startsWith('https:') ? { 'strict-transport-security': 'max-age=31536000' } : {}),
  }
}

/**
 * Only our own pages may change anything, and without accounts only this machine's names are answered at all: a page
 * from elsewhere that has its name point here would otherwise be the presenter.
 */
export default defineEventHandler((event) => {
  const { publicAddress, accounts } = settings()
  setResponseHeaders(event, headersFor(publicAddress))
  if (!event.path.startsWith('/api/')) return
  const { host } = getRequestURL(event)
  const publicHost = new URL(publicAddress).host
  const origin = getRequestHeader(event, 'origin')
  const foreignHost = accounts === 'off' && !isLoopback(nameOf(host)) && host !== publicHost
  const originHost = origin !== undefined && URL.canParse(origin) ? new URL(origin).host : ''
  const foreignOrigin =
    event.method !== 'GET' && event.method !== 'HEAD' && origin !== undefined && ![host, publicHost].includes(originHost)
  if (foreignHost || foreignOrigin) {
    setResponseStatus(event, 403)
    return { error: { code: 'not-allowed', sentence: "This is not one of this server's own pages.", detail: {} } }
  }
})

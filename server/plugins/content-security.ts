import { createHash } from 'node:crypto'
import type { H3Event } from 'h3'

/** What pages may load (CSP level 3): our own files, and what they make themselves. Styles are set by components. */
const POLICY = [
  "default-src 'self'",
  "style-src 'self' 'unsafe-inline'",
  "img-src 'self' data: blob:",
  "font-src 'self' data:",
  "media-src 'self' blob: mediastream:",
  "connect-src 'self'",
  "worker-src 'self' blob:",
  "manifest-src 'self'",
  "base-uri 'none'",
  "form-action 'self'",
  "object-src 'none'",
  // A screening page, as its presenter sees it small.
  "frame-src 'self'",
].join('; ')

/** Who may show a page within theirs: we ourselves, and whom its presenter named. */
const ancestorsOf = ({ context }: H3Event): string =>
  ["frame-ancestors 'self'", ...((context['embedOn'] as readonly string[] | undefined) ?? [])].join(' ')

const INLINE_SCRIPT = /<script(?![^>]*\ssrc=)[^>]*>([\s\S]*?)<\/script>/gi

/** Scripts that stand in a page of ours, by their digests: no others run. */
const scriptsOf = (html: string): string =>
  [...html.matchAll(INLINE_SCRIPT)].map(([, script = '']) => `'sha256-${createHash('sha256').update(script).digest('base64')}'`).join(' ')

export default defineNitroPlugin((nitro) => {
  // While it is worked on, pages are reloaded by scripts that change.
  if (import.meta.dev) return
  nitro.hooks.hook('render:response', (response, { event }) => {
    if (typeof response.body !== 'string') return
    const { 'x-powered-by': _, ...headers } = response.headers ?? {}
    response.headers = {
      ...headers,
      'content-security-policy': `${POLICY}; ${ancestorsOf(event)}; script-src 'self' ${scriptsOf(response.body)}`,
    }
  })
})

import { defineEventHandler, removeResponseHeader, setResponseHeader, setResponseStatus } from 'h3'
import type { H3Event } from 'h3'
import { Refusal } from '@core/model'
import { STATUS_OF, screeningRefused } from '@contracts'
import type { ScreeningAnswer } from '@contracts'
import { database } from '@server/database'
import { screeningView } from '@server/domain'
import type { Access } from '@server/domain'
import { accessByKeyFrom } from '@server/http'
import { log } from '@server/log'

const PAGE = /^\/s\/([^/?#]+)(?:[?#].*)?$/

/** Those with whom everybody may see a talk may show its page within theirs; what everybody is to find is not hidden from who looks. */
function openTo(event: H3Event, { open, found, embedOn }: Access): void {
  if (open && found) removeResponseHeader(event, 'x-robots-tag')
  if (!open || embedOn.length === 0) return
  removeResponseHeader(event, 'x-frame-options')
  event.context['embedOn'] = embedOn
}

/**
 * A screening page is told what it shows before it is drawn, so that it is there without a script, and a link that opens nothing is
 * answered as such.
 */
export default defineEventHandler(async (event) => {
  const key = PAGE.exec(event.path)?.[1]
  if (key === undefined || event.method !== 'GET') return
  // Who has the link is not told to whom else it leads, and search engines keep out of it.
  setResponseHeader(event, 'referrer-policy', 'no-referrer')
  setResponseHeader(event, 'x-robots-tag', 'noindex, nofollow')
  setResponseHeader(event, 'cache-control', 'private, no-store')
  const screening: ScreeningAnswer = await accessByKeyFrom(event, key)
    .then(async (access) => {
      const view = await screeningView(database(), access)
      openTo(event, access)
      return view
    })
    .then(
      (view) => ({ kind: 'view', view }),
      (error: unknown) => {
        if (!(error instanceof Refusal)) log.error({ err: error }, 'a screening page failed')
        const refusal =
          error instanceof Refusal ? error : new Refusal('unavailable', 'This page cannot be shown at the moment. Try again in a minute.')
        setResponseStatus(event, STATUS_OF[refusal.code])
        return screeningRefused(refusal) ?? { kind: 'refused', sentence: refusal.message }
      },
    )
  event.context['screening'] = screening
})

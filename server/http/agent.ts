import { getRequestHeader } from 'h3'
import type { H3Event } from 'h3'
import Bowser from 'bowser'

/** What a browser is, in words, as far as it says: “Firefox on Linux”. Empty when it does not. */
export function agentOf(event: H3Event): string {
  const header = getRequestHeader(event, 'user-agent') ?? ''
  if (header === '') return ''
  const { browser, os } = Bowser.parse(header)
  return [browser.name, os.name].filter((name) => name !== undefined && name !== '').join(' on ')
}

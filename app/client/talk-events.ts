import type { TalkEvent } from '@contracts'

/*
 * Browsers allow a server few connections at a time, and a line that stays open takes one of them. So all pages of a
 * browser share one: whoever holds the lock keeps it and tells the others; when that page goes, the next takes over.
 */
type Word = { readonly kind: 'told'; readonly event: TalkEvent } | { readonly kind: 'ready' }

const NAME = 'aisle-events'
const hearers = new Set<(word: Word) => void>()
let channel: BroadcastChannel | null = null

function pass(word: Word): void {
  for (const hear of hearers) hear(word)
}

/** Holds the line for as long as this page lives. */
function holdLine(): Promise<never> {
  const events = new EventSource('/api/events')
  const tell = (word: Word): void => {
    pass(word)
    channel?.postMessage(word)
  }
  // Whenever the line begins to hear, also for the first time: what happened before that was told to nobody.
  events.addEventListener('ready', () => {
    tell({ kind: 'ready' })
  })
  events.onmessage = (message) => {
    tell({ kind: 'told', event: JSON.parse(String(message.data)) as TalkEvent })
  }
  return new Promise(() => undefined)
}

/**
 * Hears what changes in this person's talks.
 * @param hear is told of each change
 * @param ready is called when the server can be heard, at first and after a while in which it could not: what is shown should be asked
 * for again
 * @returns what ends it
 */
export function hearTalks(hear: (event: TalkEvent) => void, ready: () => void): () => void {
  if (channel === null) {
    channel = new BroadcastChannel(NAME)
    channel.onmessage = (message: MessageEvent<Word>) => {
      pass(message.data)
    }
    void navigator.locks.request(NAME, holdLine)
  }
  const hearer = (word: Word): void => {
    if (word.kind === 'told') hear(word.event)
    else ready()
  }
  hearers.add(hearer)
  return () => {
    hearers.delete(hearer)
  }
}

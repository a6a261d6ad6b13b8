import { hearTalks } from './talk-events'

/** What is done about news of a talk. */
export interface TalkNews {
  readonly ledger: () => void
  /** More is known of what a file would cost. */
  readonly estimate: () => void
  /** @param revision that the programme has now */
  readonly programme: (revision: string | null) => void
  /** How it is shown to others, or what they asked. */
  readonly share: () => void
  /** What is said in it. */
  readonly words: () => void
  /** A file of it is on its way to somebody, or there. */
  readonly sending: () => void
  /** What was handed in for its call. */
  readonly entry: () => void
  /** What is made of it to be taken along. */
  readonly export: () => void
  /** A camera with another backdrop is being made, or is there. */
  readonly backdrop: () => void
  /** Its deck, takes, imports or fields. */
  readonly talk: () => void
  /** Something may have been missed. */
  readonly missed: () => void
}

/** Hears the news of one talk. @returns what ends it */
export const watchTalk = (id: string, news: TalkNews): (() => void) =>
  hearTalks((told) => {
    if (told.talk !== id) return
    switch (told.kind) {
      case 'delivery':
        news.ledger()
        break
      case 'estimate':
        news.estimate()
        break
      case 'programme':
        news.programme(told.id)
        break
      case 'share':
      case 'question':
        news.share()
        break
      case 'words':
        news.words()
        break
      case 'sending':
        news.sending()
        break
      case 'entry':
        news.entry()
        break
      case 'export':
        news.export()
        break
      case 'backdrop':
        news.backdrop()
        break
      default:
        news.talk()
    }
  }, news.missed)

import type Hls from 'hls.js'

/** What a page hears of a stream. */
export interface StreamEvents {
  /** The element begins anew with this stream, and stands still until it is told to play. */
  readonly attached: () => void
  /** Nothing of it can be played, and trying again is no use. */
  readonly failed: () => void
  /** The server has no such part, or cannot make it. */
  readonly gone: () => void
  /** Its parts do not come at the moment, or come again. */
  readonly away: (away: boolean) => void
}

/** Wait before a stream whose line was lost is asked for again, in ms. */
const AGAIN = 2000
/** How much of it is held ahead, in seconds. */
const AHEAD = 40

/** A stream that a media element plays, by its playlist; it goes on by itself after the line was lost. */
export class Stream {
  readonly #media: HTMLMediaElement
  readonly #events: StreamEvents
  #hls: Hls | null = null
  #timer: ReturnType<typeof setTimeout> | undefined
  #lines: number | null = null
  /** Grows with every stream that is opened: what waits for its player gives way to what was asked for later. */
  #asked = 0

  constructor(media: HTMLMediaElement, events: StreamEvents) {
    this.#media = media
    this.#events = events
  }

  /** @param at where it is to begin, in seconds */
  async open(playlist: string, at: number): Promise<void> {
    this.#asked += 1
    const asked = this.#asked
    const { default: Player, ErrorTypes, Events } = await import('hls.js')
    if (asked !== this.#asked) return
    if (!Player.isSupported()) {
      this.#openByItself(playlist, at)
      return
    }
    this.#hls?.destroy()
    const hls = new Player({ startPosition: at, maxBufferLength: AHEAD, enableWebVTT: false })
    this.#hls = hls
    hls.on(Events.MEDIA_ATTACHED, this.#events.attached)
    hls.on(Events.MANIFEST_PARSED, () => {
      this.#choose()
    })
    hls.on(Events.FRAG_BUFFERED, () => {
      this.#events.away(false)
    })
    hls.on(Events.ERROR, (_, { fatal, type, response }) => {
      if (!fatal) return
      if (type === ErrorTypes.MEDIA_ERROR) {
        hls.recoverMediaError()
        return
      }
      if (type !== ErrorTypes.NETWORK_ERROR) {
        this.#events.failed()
        return
      }
      if ((response?.code ?? 0) >= 400) {
        this.#events.gone()
        return
      }
      this.#events.away(true)
      clearTimeout(this.#timer)
      this.#timer = setTimeout(() => {
        if (hls.levels.length === 0) hls.loadSource(playlist)
        else hls.startLoad()
      }, AGAIN)
    })
    hls.loadSource(playlist)
    hls.attachMedia(this.#media)
  }

  /** How fine the picture is, in lines; null: what the line carries. */
  set lines(lines: number | null) {
    this.#lines = lines
    this.#choose()
  }

  #choose(): void {
    if (this.#hls === null || this.#hls.levels.length === 0) return
    const found = this.#hls.levels.findIndex(({ height }) => height === this.#lines)
    if (this.#hls.currentLevel !== found) this.#hls.nextLevel = found
  }

  /** Some browsers play such streams without help. */
  #openByItself(playlist: string, at: number): void {
    if (this.#media.canPlayType('application/vnd.apple.mpegurl') === '') {
      this.#events.failed()
      return
    }
    this.#media.src = playlist
    this.#media.currentTime = at
    this.#media.addEventListener('error', this.#events.failed)
    this.#events.attached()
  }

  close(): void {
    this.#asked += 1
    clearTimeout(this.#timer)
    this.#hls?.destroy()
    this.#hls = null
    this.#media.removeAttribute('src')
  }
}

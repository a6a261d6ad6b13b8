import { database } from '@server/database'
import { stretchesBeingRecorded } from '@server/domain'
import { log } from '@server/log'
import { aloneIfFree } from '../claims'
import { followRecording } from './follow-recording'
import type { FollowedStretch } from './follow-recording'
import { Wakeable } from './wakeable'

/** Name of the claim on reading a recording. */
export const READING = 'read-recording'
/** How often it is looked for recordings that begin, in ms. */
const LOOK_AGAIN = 2000
/** A take that was not heard of for longer is not begun to be followed, in ms. */
const HEARD_OF = 60_000
/** Most recordings that one worker follows: each takes a decoder that mostly waits. All others are read once they are closed. */
const MOST = 16

interface Following {
  readonly wait: Wakeable
  readonly done: Promise<void>
}

/** Recordings that this worker reads while they are made. */
class Followers {
  readonly #following = new Map<string, Following>()
  /** Those that could not be followed, as long as they are still recorded: reading them when they are closed says why. */
  #failed: ReadonlySet<string> = new Set()
  #timer: NodeJS.Timeout | undefined

  start(): void {
    this.#timer = setInterval(() => {
      this.#followNew().catch((error: unknown) => {
        log.warn({ error: String(error) }, 'what is being recorded was not looked for')
      })
    }, LOOK_AGAIN)
  }

  stop(): void {
    clearInterval(this.#timer)
  }

  async #followNew(): Promise<void> {
    const recorded = await stretchesBeingRecorded(database(), HEARD_OF, MOST)
    this.#failed = new Set(recorded.map(({ id }) => id).filter((id) => this.#failed.has(id)))
    for (const stretch of recorded) {
      if (this.#following.size >= MOST) return
      if (!this.#following.has(stretch.id) && !this.#failed.has(stretch.id)) this.#follow(stretch)
    }
  }

  #follow(stretch: FollowedStretch): void {
    const { id } = stretch
    const wait = new Wakeable()
    const done = aloneIfFree(READING, id, (_, claim) => followRecording(database(), stretch, claim, wait))
      .then(
        () => undefined,
        (error: unknown) => {
          this.#failed = new Set([...this.#failed, id])
          log.info({ stretch: id, error: String(error) }, 'a recording is read when it is closed')
        },
      )
      .finally(() => this.#following.delete(id))
    this.#following.set(id, { wait, done })
  }

  /** Waits until a recording that is closed, and is followed here, has been read; one that is not followed is not waited for. */
  async finished(stretch: string): Promise<void> {
    const following = this.#following.get(stretch)
    following?.wait.wake()
    await following?.done
  }
}

export const followers = new Followers()

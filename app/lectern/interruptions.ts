import { duration } from '~/words'

export interface Interrupted {
  readonly recording: () => boolean
  /** @param stamp when, on the page's clock */
  readonly pause: (stamp?: number) => Promise<void>
  /** Has a new stretch take over. */
  readonly renew: () => Promise<void>
  readonly cameraOff: () => Promise<void>
  readonly say: (sentence: string) => void
}

/** What befalls a take without being asked for. What can go on goes on, and it is said at once, in words. */
export function interruptions(take: Interrupted) {
  async function micLost(): Promise<void> {
    if (!take.recording()) return
    await take.pause()
    take.say('The microphone stopped, so the take was paused. What was said is kept. Choose another one in the room check and go on.')
  }

  async function cameraLost(): Promise<void> {
    if (!take.recording()) return
    await take.cameraOff()
    take.say('The camera stopped. The take goes on with your voice alone; C brings the camera back when it is there again.')
  }

  /** As when earphones are put in: what follows is counted for itself. */
  async function newRate(): Promise<void> {
    if (!take.recording()) return
    take.say('The microphone changed its sample rate. The take goes on, and nothing of it is lost.')
    await take.renew()
  }

  /** @param awake when the machine was last awake, on the page's clock @param asleep for how long it was not, in ms */
  async function slept(awake: number, asleep: number): Promise<void> {
    if (!take.recording()) return
    await take.pause(awake)
    take.say(
      `This computer was asleep for ${duration(asleep)}, so the take was paused there. What was said before is kept; go on when ` +
        `you are ready.`,
    )
  }

  return { micLost, cameraLost, newRate, slept }
}

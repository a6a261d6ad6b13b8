import { Refusal } from '@core/model'

/** How long a browser may take until it works with sound, in ms. */
const PATIENCE = 6000

/**
 * A place to work with sound, once it runs. Some browsers let it run only where there is something to hear sound on.
 * @throws Refusal `unavailable` when it does not
 */
export async function runningAudio(options?: AudioContextOptions): Promise<AudioContext> {
  const context = new AudioContext(options)
  const runs = await Promise.race([
    context.resume().then(() => true),
    new Promise<false>((resolve) => {
      setTimeout(() => {
        resolve(false)
      }, PATIENCE)
    }),
  ])
  if (runs) return context
  void context.close()
  throw new Refusal(
    'unavailable',
    'This browser works with sound only where there is something to hear it on. Plug in earphones or a loudspeaker, then open ' +
      'the room check again.',
  )
}

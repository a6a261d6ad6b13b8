import { unreachable } from '@core/model'
import type { Interruption } from '@core/session'
import { duration } from '~/words'

/** What is said when something interrupts a take that was not asked for. */
export function interruptionWords(by: Interruption): string {
  switch (by.kind) {
    case 'micLost':
      return 'The microphone stopped, so the take was paused. What was said is kept. Choose another one in the room check and go on.'
    case 'cameraLost':
      return 'The camera stopped. The take goes on with your voice alone; C brings the camera back when it is there again.'
    case 'rateChanged':
      return 'The microphone changed its sample rate. The take goes on, and nothing of it is lost.'
    case 'slept':
      return (
        `This computer was asleep for ${duration(by.asleep)}, so the take was paused there. What was said before is kept; go on when ` +
        'you are ready.'
      )
    default:
      return unreachable(by)
  }
}

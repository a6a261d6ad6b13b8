import type { Ms, NewBackdrop, StretchId } from '@core/model'
import type { BackdropStillView } from '@contracts'
import type { Queries } from '@server/database'
import { stillOfPicture, stillOfRecording } from '@server/media'
import { inTurn } from './in-turn'
import { checkAssets } from './kept-for-talk'

type Still = Awaited<ReturnType<typeof stillOfPicture>>
const viewOf = ({ picture, advice }: Still): BackdropStillView => ({ picture: picture.toString('base64'), advice })

/**
 * What a recording would look like with a backdrop, in one picture, and what would help.
 * @param at ms into the recording
 * @throws Refusal `not-found` when the picture behind is not the talk's, `unreadable` when there is no cloth
 */
export async function tryOnRecording(
  q: Queries,
  talk: string,
  stretch: StretchId,
  at: Ms,
  backdrop: NewBackdrop,
): Promise<BackdropStillView> {
  if (backdrop.kind === 'picture') await checkAssets(q, talk, [backdrop.asset])
  return viewOf(await inTurn(() => stillOfRecording(stretch, at, backdrop)))
}

/**
 * As `tryOnRecording`, on a picture of a camera that records nothing yet.
 * @param jpeg its bytes
 * @throws Refusal `malformed` when it is none
 */
export const tryOnPicture = async (jpeg: Buffer, backdrop: NewBackdrop): Promise<BackdropStillView> =>
  viewOf(await inTurn(() => stillOfPicture(jpeg, backdrop)))

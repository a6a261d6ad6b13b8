import type { Slide } from '@core/model'
import type { ArchivedVersion } from './talk-archive'

/** What is seen of a version of a slide, as slides have it. */
export const picturedIn = ({
  steps,
  composition,
  clips,
  drawing,
}: ArchivedVersion): Pick<Slide, 'steps' | 'composition' | 'clips' | 'drawing'> => ({
  steps,
  composition,
  ...(clips === null ? {} : { clips }),
  ...(drawing === null ? {} : { drawing }),
})

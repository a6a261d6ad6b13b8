import { getQuery } from 'h3'
import type { VoiceTreatment } from '@core/model'
import * as schemas from '@contracts/schemas'
import { answerForStretch, parse, sendFile } from '@server/http'
import { treatedSound } from '@server/media'

/** A voice as a treatment has it sound, to be heard beside its recording. It is made if it is not there. */
export default answerForStretch(async (event, stretch) => {
  const treatment = parse<VoiceTreatment>(schemas.treatmentAsked, getQuery(event))
  await sendFile(event, { path: await treatedSound(stretch, treatment), mime: 'audio/webm', fixed: true })
})

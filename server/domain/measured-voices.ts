import { asId } from '@core/model'
import { heardTimes } from '@core/programme'
import { proposedTreatment } from '@core/voice'
import type { VoiceFacts } from '@core/voice'
import type { MeasuredVoice } from '@contracts'
import type { Queries } from '@server/database'
import { voiceFacts } from '@server/media'
import { currentProgramme } from './programmes'
import { Remembered } from './remembered'

/** Voices never change: what was measured in those asked for last is remembered. */
const known = new Remembered<VoiceFacts>(500)

/** What was measured in each voice that is heard in a talk. */
export async function measuredVoices(q: Queries, talk: string): Promise<readonly MeasuredVoice[]> {
  const heard = heardTimes(await currentProgramme(q, talk))
  if (heard.size === 0) return []
  const rows = await q
    .selectFrom('stretch')
    .select(['id', 'take'])
    .where('id', 'in', [...heard.keys()])
    .execute()
  const voices: MeasuredVoice[] = []
  for (const { id, take } of rows) {
    const facts = await known.of(id, () => voiceFacts(id))
    voices.push({ stretch: asId(id), take: asId(take), facts, proposed: proposedTreatment(facts) })
  }
  return voices
}

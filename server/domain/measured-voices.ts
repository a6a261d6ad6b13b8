import type { StretchId } from '@core/model'
import { proposedTreatment } from '@core/voice'
import type { MeasuredVoice } from '@contracts'
import type { Queries } from '@server/database'
import { voiceFacts } from '@server/media'
import { currentProgramme } from './programmes'
import { Remembered } from './remembered'

/** Voices never change: what was measured in those asked for last is remembered. */
const known = new Remembered<MeasuredVoice>(500)

const measured = (stretch: StretchId): Promise<MeasuredVoice> =>
  known.of(stretch, async () => {
    const facts = await voiceFacts(stretch)
    return { stretch, facts, proposed: proposedTreatment(facts) }
  })

/** What was measured in each voice that is heard in a talk. */
export async function measuredVoices(q: Queries, talk: string): Promise<readonly MeasuredVoice[]> {
  const { pieces } = await currentProgramme(q, talk)
  const heard = new Set(
    pieces.flatMap((piece) => (piece.kind === 'recorded' && piece.out === undefined && piece.voice !== null ? [piece.voice.stretch] : [])),
  )
  const voices: MeasuredVoice[] = []
  for (const stretch of heard) voices.push(await measured(stretch))
  return voices
}

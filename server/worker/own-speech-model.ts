import { WrongModelFolder, speechModelIn } from '@render/speech'
import type { SpeechModel } from '@render/speech'
import { log } from '@server/log'
import { settings } from '@server/settings'

let known: Promise<SpeechModel | null> | undefined

async function readModel(folder: string): Promise<SpeechModel | null> {
  try {
    return await speechModelIn(folder)
  } catch (error) {
    if (!(error instanceof WrongModelFolder)) throw error
    log.error(`AISLE_SPEECH_MODEL: ${error.message} Speech is heard without that model.`)
    return null
  }
}

/** The model that this server's operator put there, read once; null: there is none, or it cannot be used, which is said in the log. */
export function ownSpeechModel(): Promise<SpeechModel | null> {
  const { speechModel } = settings()
  return (known ??= speechModel === null ? Promise.resolve(null) : readModel(speechModel))
}

import { alignWords } from '@core/words'
import type { HeardWord } from '@core/words'
import type { Said } from '@core/model'
import { linesOf, startApart } from '@render/process'
import type { ApartBounds } from '@render/process'
import type { HearOrder } from './hear-parts'
import type { ListenOptions, ListenOrder } from './listen'
import type { SpeechModel } from './model-folder'
import { samplesIn, withPreparedVoice } from './recognise'
import { recognisedWords } from './recognised-words'
import type { RecogniserResult } from './recognised-words'

/** MB that hearing with a large model may take. */
const MEMORY = 6144

/**
 * Hears a stretch with the model that an operator put on this server, and lays it on what is written.
 * @param language BCP 47 tag
 * @throws ProcessFailed when the recogniser dies or takes longer than it may
 */
export const listenByFolder = (
  listened: ListenOrder,
  language: string,
  model: SpeechModel,
  options: ListenOptions,
  where: Pick<ApartBounds, 'programs' | 'home'>,
): Promise<Said> =>
  withPreparedVoice(listened, options, async (folder, parts) => {
    const order: HearOrder = { model: model.configFor(language), samples: samplesIn(folder), parts }
    const hearing = startApart('hear-parts', { ...where, ...options, memory: MEMORY })
    try {
      hearing.child.stdin?.end(JSON.stringify(order))
      const heard: HeardWord[] = []
      let part = 0
      for await (const line of linesOf(hearing.output)) {
        // Our own program wrote it; it is not a border.
        heard.push(...recognisedWords(JSON.parse(line) as RecogniserResult, parts[part] ?? { from: 0, to: listened.length }, language))
        part += 1
      }
      await hearing.done
      return alignWords(heard, listened.texts, listened.shown)
    } finally {
      hearing.end()
    }
  })

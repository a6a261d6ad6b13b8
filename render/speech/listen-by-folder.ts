import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { alignWords, partsToHear } from '@core/words'
import type { HeardWord } from '@core/words'
import type { Said } from '@core/model'
import { linesOf, startApart } from '@render/process'
import type { ApartBounds } from '@render/process'
import type { HearOrder } from './hear-parts'
import type { ListenOptions, ListenOrder } from './listen'
import type { SpeechModel } from './model-folder'
import { prepareVoice, samplesIn } from './recognise'
import { recognisedWords } from './recognised-words'
import type { RecogniserResult } from './recognised-words'

/** MB that hearing with a large model may take. */
const MEMORY = 6144

/**
 * Hears a stretch with the model that an operator put on this server, and lays it on what is written.
 * @param language BCP 47 tag
 * @throws ProcessFailed when the recogniser dies or takes longer than it may
 */
export async function listenByFolder(
  { voice, peaks, length, texts, shown }: ListenOrder,
  language: string,
  model: SpeechModel,
  options: ListenOptions,
  where: Pick<ApartBounds, 'programs' | 'home'>,
): Promise<Said> {
  const folder = await mkdtemp(join(tmpdir(), 'aisle-listened-'))
  try {
    await prepareVoice(voice, folder, options)
    const parts = partsToHear(peaks, length)
    const order: HearOrder = { model: model.configFor(language), samples: samplesIn(folder), parts }
    const { time, niceness, signal } = options
    const hearing = startApart('hear-parts', { ...where, time, niceness, memory: MEMORY, ...(signal === undefined ? {} : { signal }) })
    try {
      hearing.child.stdin?.end(JSON.stringify(order))
      const heard: HeardWord[] = []
      let part = 0
      for await (const line of linesOf(hearing.output)) {
        // Our own program wrote it; it is not a border.
        heard.push(...recognisedWords(JSON.parse(line) as RecogniserResult, parts[part] ?? { from: 0, to: length }, language))
        part += 1
      }
      await hearing.done
      return alignWords(heard, texts, shown)
    } finally {
      hearing.end()
    }
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}

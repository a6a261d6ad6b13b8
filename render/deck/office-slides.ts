import { basename, join } from 'node:path'
import { MOST_CLIPS, Refusal } from '@core/model'
import { recordedLength } from '@core/office'
import type { OfficeFinding } from '@core/office'
import { mostly } from '@render/office'
import type { OfficeDeck, OfficeSlide, OpenedOffice, SlideRecording } from '@render/office'
import { bringRecorded } from '@render/sound'
import type { DeckMessage, ReadClip, ReadDeckOrder, ReadRecording, ReadStep, SlideFacts } from './messages'

/** Timings without anything that was said only plan a deck that advances by itself. */
const isRecorded = ({ slides }: OfficeDeck): boolean => slides.some(({ recording }) => recording?.media != null)

/** What an office file says of one of its slides. @param steps as they were drawn */
export function slideOf(
  office: OfficeDeck,
  n: number,
  steps: readonly ReadStep[],
): { readonly title: string; readonly steps: readonly ReadStep[]; readonly facts: SlideFacts | null } {
  const slide = office.slides[n]
  if (slide === undefined) return { title: '', steps, facts: null }
  const { title, section, notes, description, hidden, transition, recording, states } = slide
  const planned = isRecorded(office) ? null : (recording?.length ?? null)
  return {
    title,
    steps: steps.map((step, k) => {
      const { soft = false, motions = [] } = states[k] ?? {}
      return { ...step, ...(soft ? ({ reveal: 'fade' } as const) : {}), ...(motions.length > 0 ? { motions } : {}) }
    }),
    facts: { section, notes, description, skip: hidden, transition, planned },
  }
}

/** Makes the recording of a slide ready. @returns null when there is nothing that can be played or shown */
async function readRecording(
  { number, states }: OfficeSlide,
  recording: SlideRecording,
  at: number,
  { office, order, name }: { readonly office: OpenedOffice; readonly order: ReadDeckOrder; readonly name: string },
): Promise<{ readonly recorded: ReadRecording | null; readonly findings: readonly OfficeFinding[] }> {
  const { media, camera, ...rest } = recording
  const clicks = states.length > 1 && rest.clicks.length === 0 ? [{ kind: 'clicks', slide: number } as const] : []
  const shared = { ...rest, slide: at, states: states.map((state) => ({ clicks: state.clicks })) }
  const silent = (): ReadRecording | null =>
    rest.length === null ? null : { ...shared, media: null, camera: false, shown: recordedLength(rest, 0) }
  if (media === null) return { recorded: silent(), findings: clicks }
  const [from, to] = [join(order.out, `${name}.source`), `${name}.webm`]
  try {
    await office.extract(media.part, from)
    const atLeast = rest.length ?? 0
    const { length, camera: seen } = await bringRecorded(from, join(order.out, to), {
      camera,
      trim: media.trim,
      atLeast,
      time: order.converter?.time ?? 0,
    })
    return { recorded: { ...shared, media: to, camera: seen, shown: recordedLength(rest, length) }, findings: clicks }
  } catch (error) {
    if (!(error instanceof Refusal) || error.code !== 'unreadable') throw error
    return { recorded: silent(), findings: [{ kind: 'recording', slide: number }] }
  }
}

/** Most clips of one slide and of one file that are taken, and the longest name of one. */
const MOST = { slide: MOST_CLIPS, file: 40, name: 120 } as const

/** Takes the films and sounds of a file's slides out of it. @param first see `officeMessage` */
async function readClips(office: OpenedOffice, first: number, { out }: ReadDeckOrder): Promise<readonly ReadClip[]> {
  const clips: ReadClip[] = []
  for (const [n, slide] of office.slides.entries())
    for (const { media, box, state, start, loop } of slide.clips.slice(0, MOST.slide)) {
      if (clips.length === MOST.file) return clips
      const file = `clip-${String(first + n)}-${String(clips.length)}.source`
      await office.extract(media.part, join(out, file))
      const name = basename(media.part).slice(-MOST.name)
      clips.push({ slide: first + n, number: slide.number, media: file, name, trim: media.trim, box, step: state, start, loop })
    }
  return clips
}

/** The language of most slides; empty when nothing says so. */
function languageOf({ slides }: OfficeDeck): string {
  const counts = new Map<string, number>()
  for (const { language } of slides) if (language !== '') counts.set(language, (counts.get(language) ?? 0) + 1)
  return mostly(counts)
}

/**
 * What came of an office file, with what was recorded on its slides made ready.
 * @param first which of the slides that are told its first is, counted from 0
 */
export async function officeMessage(office: OpenedOffice, name: string, first: number, order: ReadDeckOrder): Promise<DeckMessage> {
  const recorded: ReadRecording[] = []
  const findings: OfficeFinding[] = [...office.findings]
  for (const [n, slide] of isRecorded(office) ? office.slides.entries() : []) {
    // A show leaves it out, and what was said on it.
    if (slide.recording === null || slide.hidden) continue
    const read = await readRecording(slide, slide.recording, first + n, { office, order, name: `recorded-${String(first + n)}` })
    if (read.recorded !== null) recorded.push(read.recorded)
    findings.push(...read.findings)
  }
  const clips = await readClips(office, first, order)
  office.close()
  const { slides } = office
  return {
    kind: 'office',
    recorded,
    clips,
    report: {
      name,
      slides: slides.length,
      steps: slides.reduce((sum, { states }) => sum + states.length - 1, 0),
      notes: slides.filter(({ notes }) => notes !== '').length,
      skipped: slides.filter(({ hidden }) => hidden).length,
      language: languageOf(office),
      recorded: recorded.length === 0 ? null : { slides: recorded.length, length: recorded.reduce((sum, { shown }) => sum + shown, 0) },
      findings,
    },
  }
}

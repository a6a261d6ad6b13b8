import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import pptxgen from 'pptxgenjs'
import { ZipFile } from 'yazl'
import { buffer } from 'node:stream/consumers'
import { openPromise } from 'yauzl'
import { run } from '@render/process'
import { timingOf } from './office-timing'
import type { MadeEffect } from './office-timing'

// The package is bundled as CommonJS: where it is imported as a module, its class is inside.
const Deck = (pptxgen as unknown as { readonly default?: typeof pptxgen }).default ?? pptxgen

/** A slide as the package that writes decks has it. */
export type PptxSlide = pptxgen.Slide

/** A slide of a deck made for tests. Shapes have the ids 2, 3 … in the order in which they are put on it. */
export interface MadeSlide {
  readonly put: (slide: pptxgen.Slide) => void
  readonly effects?: readonly MadeEffect[]
  readonly notes?: string
  readonly section?: string
  readonly hidden?: boolean
  /** As the format writes it, such as `<p:fade/>`. */
  readonly transition?: string
  /** ms after which the slide goes on by itself. */
  readonly advance?: number
  /** Name of the shape that is the presenter's recording. */
  readonly narration?: string
  /** Put at the end of the slide, as the format writes it. */
  readonly extensions?: string
  /** Put among the shapes, as the format writes it. */
  readonly shapes?: string
  /** What the slide names besides, and parts that come with it. */
  readonly relations?: readonly { readonly id: string; readonly type: string; readonly target: string; readonly external?: boolean }[]
}

/** Changes parts of an office file. @param change gets a part's text; null leaves it out */
export async function rewritten(
  file: Buffer,
  change: (name: string, text: string) => string | null,
  added: Readonly<Record<string, string | Buffer>> = {},
): Promise<Buffer> {
  const folder = await mkdtemp(join(tmpdir(), 'office-'))
  try {
    const path = join(folder, 'deck')
    await writeFile(path, file)
    const zip = await openPromise(path, { lazyEntries: true, autoClose: false })
    const made = new ZipFile()
    for await (const entry of zip.eachEntry()) {
      if (entry.fileName.endsWith('/')) continue
      const bytes = await buffer(await zip.openReadStreamPromise(entry))
      if (!/\.(xml|rels)$/.test(entry.fileName)) {
        made.addBuffer(bytes, entry.fileName, { compress: entry.fileName !== 'mimetype' })
        continue
      }
      const text = change(entry.fileName, bytes.toString('utf8'))
      if (text !== null) made.addBuffer(Buffer.from(text), entry.fileName)
    }
    for (const [name, content] of Object.entries(added)) made.addBuffer(Buffer.from(content), name)
    made.end()
    zip.close()
    return await buffer(made.outputStream)
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}

const narrationXml = (shape: string): string =>
  '<p:audio isNarration="1"><p:cMediaNode vol="80000" showWhenStopped="0"><p:cTn id="900" fill="hold" display="0">' +
  '<p:stCondLst><p:cond delay="indefinite"/></p:stCondLst></p:cTn><p:tgtEl>' +
  `<p:spTgt spid="${shape}"/></p:tgtEl></p:cMediaNode></p:audio>`

/** The id of the shape that is a recording: the package may give it that of another one. */
const RECORDED = '99'

function slideXml(xml: string, { effects = [], transition, advance, narration, extensions = '', shapes = '' }: MadeSlide): string {
  const timing = timingOf(effects)
  const narrated =
    narration === undefined
      ? timing
      : timing.replace('</p:childTnLst></p:cTn></p:par></p:tnLst>', `${narrationXml(RECORDED)}</p:childTnLst></p:cTn></p:par></p:tnLst>`)
  const time = advance === undefined ? '' : ` advTm="${String(advance)}"`
  const change = transition === undefined && advance === undefined ? '' : `<p:transition${time}>${transition ?? ''}</p:transition>`
  const named = xml.replace(
    new RegExp(`<p:cNvPr id="\\d+" name="${narration ?? ''}"`),
    `<p:cNvPr id="${RECORDED}" name="${narration ?? ''}"`,
  )
  return (narration === undefined ? xml : named)
    .replace('</p:spTree>', `${shapes}</p:spTree>`)
    .replace('</p:sld>', `${change}${effects.length > 0 || narration !== undefined ? narrated : ''}${extensions}</p:sld>`)
}

/**
 * Makes an office deck with the package's slides and what it cannot write: effects, transitions, recordings.
 * @param added further parts of the file
 */
export async function makeOfficeDeck(slides: readonly MadeSlide[], added: Readonly<Record<string, string | Buffer>> = {}): Promise<Buffer> {
  const deck = new Deck()
  deck.layout = 'LAYOUT_WIDE'
  for (const section of new Set(slides.flatMap((slide) => slide.section ?? []))) deck.addSection({ title: section })
  let section: string | undefined
  for (const made of slides) {
    section = made.section ?? section
    const slide = deck.addSlide(section === undefined ? {} : { sectionTitle: section })
    made.put(slide)
    if (made.notes !== undefined) slide.addNotes(made.notes)
    slide.hidden = made.hidden ?? false
  }
  const file = Buffer.from((await deck.write({ outputType: 'nodebuffer' })) as Uint8Array)
  return await rewritten(
    file,
    (name, text) => {
      const at = /^ppt\/slides\/slide(\d+)\.xml$/.exec(name)?.[1]
      const made = at === undefined ? undefined : slides[Number(at) - 1]
      if (made !== undefined) return slideXml(text, made)
      const named = /^ppt\/slides\/_rels\/slide(\d+)\.xml\.rels$/.exec(name)?.[1]
      const { relations = [] } = (named === undefined ? undefined : slides[Number(named) - 1]) ?? {}
      const more = relations.map(
        ({ id, type, target, external = false }) =>
          `<Relationship Id="${id}" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/${type}" Target="${target}"` +
          `${external ? ' TargetMode="External"' : ''}/>`,
      )
      return text.replace('</Relationships>', `${more.join('')}</Relationships>`)
    },
    added,
  )
}

/** A sound of one tone, as many office programs keep what was spoken: AAC in MP4. @param seconds how long */
export async function toneFile(seconds: number, hertz: number): Promise<Buffer> {
  return await madeByFfmpeg('m4a', ['-f', 'lavfi', '-i', `sine=frequency=${String(hertz)}:sample_rate=44100:duration=${String(seconds)}`])
}

/** A film of one colour with a tone: H.264 and AAC in MP4. */
export async function filmFile(seconds: number, colour: string, hertz: number): Promise<Buffer> {
  return await madeByFfmpeg('mp4', [
    ...['-f', 'lavfi', '-i', `color=c=${colour}:s=320x240:r=25:d=${String(seconds)}`],
    ...['-f', 'lavfi', '-i', `sine=frequency=${String(hertz)}:duration=${String(seconds)}`, '-pix_fmt', 'yuv420p', '-shortest'],
  ])
}

/** A moving picture that is red for half of a second and then green. @param name such as `a.gif` @param codec that ffmpeg writes it with */
export const movingPicture = (name: string, codec: string): Promise<Buffer> =>
  madeByFfmpeg(name.split('.').at(-1) ?? '', [
    ...['-f', 'lavfi', '-i', "color=c=red:s=320x180:r=10:d=1,drawbox=t=fill:color=lime:enable='gte(t,0.5)'"],
    ...['-c:v', codec, ...(codec === 'libwebp' ? ['-frames:v', '1'] : [])],
  ])

/** A silent film of a source that ffmpeg draws. */
export interface RedThenGreen {
  /** Seconds that it is red, and that it lasts. */
  readonly red: number
  readonly seconds: number
  readonly width?: number
  /** Of its tone. */
  readonly hertz?: number
}

/** A film that is red for its first seconds and green from then on, with a tone. */
export async function redThenGreen({ red, seconds, width = 320, hertz = 880 }: RedThenGreen): Promise<Buffer> {
  const size = `${String(width)}x${String((width * 9) / 16)}`
  const green = `drawbox=t=fill:color=lime:enable='gte(t,${String(red)})'`
  return await madeByFfmpeg('mp4', [
    ...['-f', 'lavfi', '-i', `color=c=red:s=${size}:r=25:d=${String(seconds)},${green}`],
    ...['-f', 'lavfi', '-i', `sine=frequency=${String(hertz)}:duration=${String(seconds)}`, '-pix_fmt', 'yuv420p'],
  ])
}

export const movingFile = (source: string): Promise<Buffer> => madeByFfmpeg('mp4', ['-f', 'lavfi', '-i', source, '-pix_fmt', 'yuv420p'])

async function madeByFfmpeg(ending: string, input: readonly string[]): Promise<Buffer> {
  const folder = await mkdtemp(join(tmpdir(), 'media-'))
  try {
    const path = join(folder, `made.${ending}`)
    await run('ffmpeg', ['-hide_banner', '-loglevel', 'error', ...input, '-y', path])
    return await readFile(path)
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}

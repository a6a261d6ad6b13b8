import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { subRip, viewerLines, webVtt } from '@core/formats'
import { namesInFolder, watchPage } from '@core/bundle'
import type { BundleFile, BundleMedia, BundleSlide, BundleTalk } from '@core/bundle'
import { linksOfSlide } from '@core/screening'
import { slideOf } from '@core/scene'
import { nullIfConflict, screenedHandout, screenedNotes, slidePicture, stepSeen, transcriptFile } from '@server/domain'
import type { BundleSource } from '@server/domain'
import { apartBounds } from '@server/settings'
import { assetPath } from '@server/store'
import type { ExportWork } from './export-work'
import type { ZipEntry } from './zip-folder'

/** Width of a slide's picture in the programme of a bundle, in pixels, and quality of the JPEG. */
const ROW_PICTURE = { width: 320, quality: 70 }
/** Where script and style of the page are when the product runs from its source. */
const BUILT = '.output/bin'

interface SlidesOfBundle {
  readonly slides: readonly BundleSlide[]
  readonly entries: readonly ZipEntry[]
}

/** The slides of a bundle's programme, with their pictures. */
export async function slidesOfBundle({ screening: { slides, film } }: BundleSource): Promise<SlidesOfBundle> {
  const entries: ZipEntry[] = []
  const named: BundleSlide[] = []
  for (const { id, number, title, text, viewerNotes, description } of slides) {
    const name = `pictures/slide-${String(number)}.jpg`
    entries.push({
      name,
      bytes: await slidePicture(stepSeen(slideOf(film, id), film.shape), film.shape, ROW_PICTURE.width, ROW_PICTURE.quality),
    })
    const notes = viewerLines({ viewerNotes }).join('\n')
    named.push({ id, number, title, text, viewerNotes: notes, description, picture: name, links: linksOfSlide(slideOf(film, id)) })
  }
  return { slides: named, entries }
}

/** A file that lies beside the page. */
interface Beside extends BundleFile {
  readonly entry: { readonly bytes: Buffer | string } | { readonly path: string }
}

async function wordsBeside({ db, of }: ExportWork, { captions }: BundleSource): Promise<readonly Beside[]> {
  const found: Beside[] = []
  if (captions.length > 0) {
    found.push({ file: 'captions.vtt', says: 'Captions (WebVTT)', entry: { bytes: webVtt(captions) } })
    found.push({ file: 'captions.srt', says: 'Captions (SubRip)', entry: { bytes: subRip(captions) } })
  }
  for (const [kind, says] of [
    ['docx', 'The transcript, as a document'],
    ['txt', 'The transcript, as text'],
  ] as const) {
    const transcript = await transcriptFile(db, of.talk, { kind, tidied: true, pictures: false }).catch(nullIfConflict)
    if (transcript !== null) found.push({ file: `transcript.${kind}`, says, entry: { bytes: transcript.content } })
  }
  return found
}

/** Files that lie beside the page, with what they are. */
export async function filesOfBundle(
  work: ExportWork,
  source: BundleSource,
): Promise<{ readonly files: readonly BundleFile[]; readonly entries: readonly ZipEntry[] }> {
  const { db, of } = work
  const { screening } = source
  const handout = await screenedHandout(db, of.talk, screening, true)
  const hasNotes = screening.slides.some(({ viewerNotes }) => viewerNotes.trim() !== '')
  const notes = hasNotes ? await screenedNotes(db, of.talk, screening) : null
  const names = namesInFolder(source.files.map(({ name }) => name))
  const found: readonly Beside[] = [
    { file: 'slides.pdf', says: 'Slides with what was drawn on them, as PDF', entry: { bytes: handout.bytes } },
    ...(notes === null ? [] : [{ file: 'notes.md', says: 'The notes for viewers, as text', entry: { bytes: notes.text } }]),
    ...(await wordsBeside(work, source)),
    ...source.files.map(({ digest }, n) => ({
      file: `files/${names[n] ?? digest}`,
      says: names[n] ?? digest,
      entry: { path: assetPath(digest) },
    })),
  ]
  return { files: found.map(({ file, says }) => ({ file, says })), entries: found.map(({ file, entry }) => ({ name: file, ...entry })) }
}

/** What a bundle's page shows besides its source. */
export interface PageParts {
  readonly slides: readonly BundleSlide[]
  readonly media: BundleMedia
  readonly files: readonly BundleFile[]
  /** The film whose slides are drawn in it; null: it has a film file. */
  readonly drawn: object | null
}

/** The page of a bundle, as a file. */
export async function pageOfBundle(source: BundleSource, { slides, media, files, drawn }: PageParts): Promise<ZipEntry> {
  const { screening, title, presenter, description, language, said, captions } = source
  const talk: BundleTalk = {
    title,
    presenter,
    description,
    language,
    length: screening.length,
    media,
    visits: screening.visits,
    slides,
    said,
    captions,
    files,
  }
  const folder = apartBounds().programs ?? BUILT
  const [script, style] = await Promise.all(['watch.js', 'watch.css'].map((name) => readFile(join(folder, name), 'utf8')))
  return { name: 'watch.html', bytes: watchPage({ talk, drawn, script: script ?? '', style: style ?? '' }) }
}

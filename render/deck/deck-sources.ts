import { readFile } from 'node:fs/promises'
import { basename, join, posix } from 'node:path'
import { groupPagesByLabel } from '@core/deck'
import { readMarkdownDeck } from '@core/formats'
import type { SlideDraft } from '@core/formats'
import { Refusal } from '@core/model'
import { filmOfWebp } from '@render/clips'
import { openOffice } from '@render/office'
import type { OfficeKind, OpenedOffice } from '@render/office'
import { notesPages, openPdf } from '@render/pdf'
import type { PdfFile } from '@render/pdf'
import type { ReadDeckOrder, StepSource } from './messages'
import { openPicture } from './picture'
import type { PictureFile } from './picture'
import { kindOf } from './sniff'
import type { FileKind } from './sniff'
import { unpack } from './unpack'

/** A file that a deck is made of, opened. */
export type DeckSource =
  | {
      readonly kind: 'pdf'
      readonly source: StepSource
      readonly path: string
      readonly name: string
      readonly pdf: PdfFile
      readonly groups: readonly (readonly number[])[]
      /** Of each slide, from the notes pages behind them; null: there are none. */
      readonly notes: readonly string[] | null
    }
  | {
      readonly kind: 'office'
      /** The document that was made of it. */
      readonly source: StepSource
      readonly name: string
      readonly office: OpenedOffice
    }
  | { readonly kind: 'picture'; readonly source: StepSource; readonly name: string; readonly picture: PictureFile }
  | { readonly kind: 'film'; readonly source: StepSource; readonly name: string }
  | {
      readonly kind: 'text'
      readonly name: string
      readonly slides: readonly { readonly draft: SlideDraft; readonly pictures: readonly (PictureFile & { readonly alt: string })[] }[]
    }

interface Found {
  readonly path: string
  readonly name: string
  readonly source: StepSource
  readonly kind: Exclude<FileKind, 'zip'>
}

/** Longest text that is taken for a deck, in bytes. */
const MOST_TEXT = 2_000_000

/** Names the file in what is thrown about it, for the person. */
export async function about<Result>(name: string, work: () => Promise<Result>): Promise<Result> {
  try {
    return await work()
  } catch (error) {
    if (error instanceof Refusal && error.detail['file'] === undefined) throw new Refusal(error.code, error.message, { file: name })
    throw error
  }
}

/** The order's files, archives replaced by what is in them. */
async function findFiles(order: ReadDeckOrder): Promise<readonly Found[]> {
  const found: Found[] = []
  let left = order.maxUnpacked
  for (const [file, { path, name }] of order.files.entries()) {
    await about(name, async () => {
      const kind = await kindOf(path, name)
      if (kind !== 'zip') {
        found.push({ path, name, kind, source: { kind: 'file', file } })
        return
      }
      const { files, bytes } = await unpack(path, order.out, `unpacked-${String(file)}`, left)
      left -= bytes
      for (const one of files) {
        await about(`${name}: ${one.name}`, async () => {
          const inside = await kindOf(one.path, one.name)
          if (inside === 'zip')
            throw new Refusal('unreadable', 'There is an archive inside this archive. Unpack it first and bring what is in it.')
          found.push({ path: one.path, name: one.name, kind: inside, source: { kind: 'unpacked', name: one.file } })
        })
      }
    })
  }
  return found
}

async function readText(path: string): Promise<string> {
  const bytes = await readFile(path)
  if (bytes.length > MOST_TEXT) throw new Refusal('too-large', 'This text is longer than a deck can be. Bring it in parts.')
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes)
  } catch {
    throw new Refusal('unreadable', 'This text is not stored as UTF-8. Save it as UTF-8 and bring it again.')
  }
}

/** The file that a text means by a picture's name: beside it, or of that name anywhere. */
function meant(source: string, text: string, files: readonly Found[]): Found | undefined {
  const beside = posix.normalize(posix.join(posix.dirname(text), source))
  return files.find((file) => file.name === beside) ?? files.find((file) => posix.basename(file.name) === posix.basename(source))
}

/**
 * Opens everything that a deck is made of. Pictures that a text shows stand on its slides and are none of their own.
 * @throws Refusal naming the file that cannot be read
 */
export async function openSources(order: ReadDeckOrder): Promise<readonly DeckSource[]> {
  const found = await findFiles(order)
  // A moving picture that a text shows stands still on its slide.
  const pictures = found.filter((file) => file.kind === 'picture' || file.kind === 'animation')
  const placed = new Set<Found>()
  const texts = new Map<Found, DeckSource>()
  for (const file of found.filter((one) => one.kind === 'text')) {
    texts.set(
      file,
      await about(file.name, async () => {
        const drafts = readMarkdownDeck(await readText(file.path))
        const slides = []
        for (const draft of drafts) {
          const shown = []
          for (const { source, alt } of draft.pictures) {
            const picture = meant(source, file.name, pictures)
            if (picture === undefined)
              throw new Refusal(
                'unreadable',
                `This text shows a picture “${source.slice(0, 80)}” that did not come with it. Bring both together, or in one archive.`,
              )
            placed.add(picture)
            shown.push({ ...(await about(picture.name, () => openPicture(picture.path))), alt })
          }
          slides.push({ draft, pictures: shown })
        }
        return { kind: 'text', name: file.name, slides } as const
      }),
    )
  }
  const sources: DeckSource[] = []
  for (const [n, file] of found.entries()) {
    const text = texts.get(file)
    if (text !== undefined) sources.push(text)
    else if (!placed.has(file)) sources.push(await about(file.name, () => openSource(file, n, order)))
  }
  return sources
}

/** Makes a film of a moving picture. @param number which of all files it is @returns where it is */
export async function filmOfAnimation(path: string, number: number, { out }: Pick<ReadDeckOrder, 'out'>): Promise<StepSource> {
  const name = `animation-${String(number)}.mkv`
  await filmOfWebp(path, join(out, name))
  return { kind: 'unpacked', name }
}

/** Opens a file that is no text. @param number which of all files it is */
async function openSource(file: Found, number: number, order: ReadDeckOrder): Promise<DeckSource> {
  const { path, name, source } = file
  switch (file.kind) {
    case 'picture':
      return { kind: 'picture', source, name, picture: await openPicture(path) }
    case 'film':
      return { kind: 'film', source, name }
    case 'animation':
      return { kind: 'film', source: await filmOfAnimation(path, number, order), name }
    case 'pdf': {
      const pdf = await openPdf(path)
      if (pdf.numPages > order.maxPages) {
        throw new Refusal(
          'too-large',
          `This PDF has ${String(pdf.numPages)} pages; up to ${String(order.maxPages)} can be taken in. Split it and bring ` +
            `the part you need.`,
        )
      }
      const behind = await notesPages(pdf)
      const pages = behind?.slides ?? pdf.numPages
      const labels = await pdf.getPageLabels()
      const groups = groupPagesByLabel(labels?.slice(0, pages) ?? null, pages)
      return { kind: 'pdf', source, path, name, pdf, groups, notes: behind?.notes ?? null }
    }
    case 'pptx':
    case 'odp':
    case 'ppt':
      return await openOfficeSource(file.kind, file, number, order)
    case 'text':
      throw new Error('texts are opened before')
  }
}

async function openOfficeSource(kind: OfficeKind, { path, name }: Found, number: number, order: ReadDeckOrder): Promise<DeckSource> {
  if (order.converter === null) throw new Refusal('unreadable', 'Office decks cannot be read here.')
  const office = await openOffice(path, {
    kind,
    out: order.out,
    name: `office-${String(number)}`,
    converter: order.converter,
    mostBytes: order.maxUnpacked,
    mostPages: order.maxPages,
  })
  const source = { kind: 'unpacked', name: basename(office.path) } as const
  return { kind: 'office', source, name, office }
}

/** The document whose pages are a source's slides. */
export const documentOf = (source: Extract<DeckSource, { kind: 'pdf' | 'office' }>): Pick<OpenedOffice, 'pdf' | 'path' | 'groups'> =>
  source.kind === 'office' ? source.office : source

/** How many pages, pictures and slides come in. */
export function pagesOf(source: DeckSource): number {
  if (source.kind === 'pdf' || source.kind === 'office') return documentOf(source).groups.flat().length
  return source.kind === 'text' ? source.slides.length : 1
}

/** How many slides they are. */
export function slidesOf(source: DeckSource): number {
  switch (source.kind) {
    case 'pdf':
    case 'office':
      return documentOf(source).groups.length
    case 'text':
      return source.slides.length
    case 'picture':
      return 1
    case 'film':
      return 0
  }
}

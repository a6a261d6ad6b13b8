import { createHash } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { buffer } from 'node:stream/consumers'
import { pipeline } from 'node:stream/promises'
import type { Readable } from 'node:stream'
import pptxgen from 'pptxgenjs'
import { ZipFile } from 'yazl'
import { fromBufferPromise } from 'yauzl'
import type { Ms, PathPoint, Rect, Size, Transition } from '@core/model'
import { boundsOfInk, inkPart } from './ink-part'
import type { TimedInk } from './ink-part'
import { slideTiming } from './slide-timing'

/** A slide of a narrated deck: a showing of a slide in the talk. */
export interface NarratedSlide {
  readonly title: string
  readonly notes: string
  /** What it shows, for those who do not see it. */
  readonly alt: string
  readonly length: Ms
  readonly transition: Transition
  /** Its states, each a picture of the whole slide (JPEG); all but the first come at a time, in ms after the slide appears. */
  readonly states: readonly { readonly at: Ms; readonly picture: Buffer }[]
  /** What was said, with the face where it was seen. */
  readonly media: { readonly file: string; readonly face: Rect | null; readonly poster: Buffer } | null
  readonly ink: readonly TimedInk[]
  /** What the ink looks like where it is not played: a PNG of the whole slide. */
  readonly inkPicture: Buffer | null
  readonly pointer: readonly { readonly at: Ms; readonly path: readonly PathPoint[] }[]
}

export interface NarratedDeckOrder {
  readonly title: string
  readonly presenter: string
  /** Of the slides. */
  readonly shape: Size
  readonly slides: readonly NarratedSlide[]
  readonly out: string
  readonly signal: AbortSignal
}

// The package is bundled as CommonJS: where it is imported as a module, its class is inside.
const Deck = 'default' in pptxgen ? (pptxgen as { readonly default: typeof pptxgen }).default : pptxgen

/** Width of a slide in inches, as most decks have it; and what an inch is in the format's own measure. */
const WIDE = 13.333
const EMU = 914_400
/** Ids of shapes; those that the package gives are lower. */
const SHAPES = { voice: '99', ink: '98', state: 100 } as const
const LAYOUT = 'as-shown'
const MASTER = 'SHOWN'
/** The voice alone stands in a corner, out of the way, in inches. */
const VOICE_ICON = 0.4

/** Whoever knows of these plays ink; all others show its picture. */
const INK_EFFECTS = 'http://schemas.microsoft.com/office/drawing/2016/ink'
const NEWER = 'http://schemas.microsoft.com/office/powerpoint/2010/main'
const RELATION = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships'

/** What stands for a file while the deck is put together, and is told by its bytes. */
class Placeholders {
  readonly #files = new Map<string, Buffer | { readonly path: string }>()

  /** @returns it as an address that holds its bytes */
  of(content: Buffer | { readonly path: string }, mime: string): string {
    const name = `placeholder ${String(this.#files.size)}`
    this.#files.set(digestOf(Buffer.from(name)), content)
    return `${mime};base64,${Buffer.from(name).toString('base64')}`
  }

  find(bytes: Buffer): Buffer | { readonly path: string } | undefined {
    return this.#files.get(digestOf(bytes))
  }
}

const digestOf = (bytes: Buffer): string => createHash('sha256').update(bytes).digest('hex')

const stateName = (n: number): string => `state-${String(n)}`
const stateId = (n: number): string => String(SHAPES.state + n)

function putSlide(deck: pptxgen, { title, notes, alt, states, media }: NarratedSlide, height: number, held: Placeholders): void {
  const slide = deck.addSlide({ masterName: MASTER })
  slide.addText(title, { placeholder: 'title' })
  for (const [n, { picture }] of states.entries())
    slide.addImage({
      data: held.of(picture, 'image/jpeg'),
      objectName: stateName(n),
      altText: alt,
      ...{ x: 0, y: 0, w: WIDE, h: height },
    })
  if (media !== null) {
    const { face } = media
    const place =
      face === null
        ? { x: WIDE - VOICE_ICON, y: height - VOICE_ICON, w: VOICE_ICON, h: VOICE_ICON }
        : { x: face.x * WIDE, y: face.y * height, w: face.w * WIDE, h: face.h * height }
    slide.addMedia({
      type: face === null ? 'audio' : 'video',
      data: held.of({ path: media.file }, face === null ? 'audio/m4a' : 'video/mp4'),
      cover: held.of(media.poster, 'image/png'),
      extn: face === null ? 'm4a' : 'mp4',
      objectName: 'voice',
      ...place,
    })
  }
  if (notes.trim() !== '') slide.addNotes(notes)
}

const emu = (share: number, size: number): string => String(Math.round(share * size))

/** Ink with its times, and a picture of it for programs that do not play it. */
function inkXml({ ink }: NarratedSlide, size: Size): string {
  const { x, y, w, h } = boundsOfInk(ink)
  const place = (box: Rect): string =>
    `<a:off x="${emu(box.x, size.width)}" y="${emu(box.y, size.height)}"/>` +
    `<a:ext cx="${emu(box.w, size.width)}" cy="${emu(box.h, size.height)}"/>`
  return (
    '<mc:AlternateContent xmlns:mc="http://schemas.openxmlformats.org/markup-compatibility/2006">' +
    `<mc:Choice xmlns:p14="${NEWER}" xmlns:aink="${INK_EFFECTS}" Requires="p14 aink">` +
    `<p:contentPart p14:bwMode="auto" r:id="rIdInk"><p14:nvContentPartPr>` +
    `<p14:cNvPr id="${SHAPES.ink}" name="ink"/><p14:cNvContentPartPr/><p14:nvPr/></p14:nvContentPartPr>` +
    `<p14:xfrm>${place({ x, y, w, h })}</p14:xfrm></p:contentPart></mc:Choice>` +
    `<mc:Fallback><p:pic><p:nvPicPr><p:cNvPr id="${SHAPES.ink}" name="ink"/><p:cNvPicPr/><p:nvPr/></p:nvPicPr>` +
    '<p:blipFill><a:blip r:embed="rIdInkPicture"/><a:stretch><a:fillRect/></a:stretch></p:blipFill>' +
    `<p:spPr><a:xfrm>${place({ x: 0, y: 0, w: 1, h: 1 })}</a:xfrm><a:prstGeom prst="rect"><a:avLst/></a:prstGeom></p:spPr></p:pic>` +
    '</mc:Fallback></mc:AlternateContent>'
  )
}

/** Names of extensions of a slide ([MS-PPTX]). */
const SHOW_EVENTS = '{E180D4A7-C9FB-4DFB-919C-405C955672EB}'
const LASER_TRACES = '{3A86A75C-4F4B-4683-9AE1-C65F6400EC91}'

const extension = (uri: string, name: string, inside: readonly string[]): string =>
  `<p:ext uri="${uri}"><p14:${name} xmlns:p14="${NEWER}">${inside.join('')}</p14:${name}></p:ext>`

/** Clicks and the pointer, as they were while the slide was recorded ([MS-PPTX]). */
function eventsXml({ states, pointer }: NarratedSlide, size: Size): string {
  const clicks = states.slice(1).map(({ at }, n) => `<p14:triggerEvt type="onClick" time="${String(at)}" objId="${stateId(n + 1)}"/>`)
  const traces = pointer.map(({ at, path }) => {
    const points = path.map(({ dt, x, y }) => `<p14:tracePt t="${String(at + dt)}" x="${emu(x, size.width)}" y="${emu(y, size.height)}"/>`)
    return `<p14:tracePtLst>${points.join('')}</p14:tracePtLst>`
  })
  const extensions = [
    ...(clicks.length === 0 ? [] : [extension(SHOW_EVENTS, 'showEvtLst', clicks)]),
    ...(traces.length === 0 ? [] : [extension(LASER_TRACES, 'laserTraceLst', traces)]),
  ]
  return extensions.length === 0 ? '' : `<p:extLst>${extensions.join('')}</p:extLst>`
}

const CHANGES: Readonly<Record<Transition, string>> = {
  cut: '<p:cut/>',
  fade: '<p:fade/>',
  push: '<p:push dir="l"/>',
  wipe: '<p:wipe dir="l"/>',
}

/** The package's slide with what it cannot write: ids, ink, times, what begins when. */
function slideXml(xml: string, slide: NarratedSlide, size: Size): string {
  const named = slide.states.reduce(
    (text, _, n) =>
      text.replace(new RegExp(`<p:cNvPr id="\\d+" name="${stateName(n)}"`), `<p:cNvPr id="${stateId(n)}" name="${stateName(n)}"`),
    xml.replace(/<p:cNvPr id="\d+" name="voice"/, `<p:cNvPr id="${SHAPES.voice}" name="voice"`),
  )
  const narration =
    slide.media === null ? null : { shape: SHAPES.voice, kind: slide.media.face === null ? ('audio' as const) : ('video' as const) }
  const timing = slideTiming({ comes: slide.states.slice(1).map((_, n) => stateId(n + 1)), narration })
  const time = String(Math.round(slide.length))
  const transition = `<p:transition advClick="1" advTm="${time}">${CHANGES[slide.transition]}</p:transition>`
  return named
    .replace('</p:spTree>', `${slide.ink.length === 0 ? '' : inkXml(slide, size)}</p:spTree>`)
    .replace('</p:sld>', `${transition}${timing}${eventsXml(slide, size)}</p:sld>`)
}

const inkRelations = (number: number): string =>
  `<Relationship Id="rIdInk" Type="${RELATION}/customXml" Target="../ink/ink${String(number)}.xml"/>` +
  `<Relationship Id="rIdInkPicture" Type="${RELATION}/image" Target="../media/ink${String(number)}.png"/>`

/** A part of the file as the package wrote it, with what was added. */
function changedPart(name: string, text: string, slides: readonly NarratedSlide[], size: Size): string {
  const slide = /^ppt\/slides\/slide(\d+)\.xml$/.exec(name)?.[1]
  const own = slide === undefined ? undefined : slides[Number(slide) - 1]
  if (own !== undefined) return slideXml(text, own, size)
  const related = /^ppt\/slides\/_rels\/slide(\d+)\.xml\.rels$/.exec(name)?.[1]
  const inked = related === undefined ? undefined : slides[Number(related) - 1]
  if (inked !== undefined && inked.ink.length > 0)
    return text.replace('</Relationships>', `${inkRelations(Number(related))}</Relationships>`)
  if (name !== '[Content_Types].xml') return text
  const parts = slides.flatMap(({ ink }, n) =>
    ink.length === 0 ? [] : [`<Override PartName="/ppt/ink/ink${String(n + 1)}.xml" ContentType="application/inkml+xml"/>`],
  )
  const types = [
    ['png', 'image/png'],
    ['m4a', 'audio/mp4'],
    ['mp4', 'video/mp4'],
  ].filter(([ending]) => !text.includes(`Extension="${ending ?? ''}"`))
  const defaults = types.map(([ending, type]) => `<Default Extension="${ending ?? ''}" ContentType="${type ?? ''}"/>`)
  return text.replace('</Types>', `${defaults.join('')}${parts.join('')}</Types>`)
}

/**
 * Writes an office deck (PresentationML, ISO/IEC 29500) in which each slide is shown, narrated and drawn on as it was in a talk.
 * Pictures, voices and faces are taken from their files as it is written.
 */
export async function writeNarratedDeck({ title, presenter, shape, slides, out, signal }: NarratedDeckOrder): Promise<void> {
  const height = (WIDE * shape.height) / shape.width
  const deck = new Deck()
  const held = new Placeholders()
  deck.title = title
  deck.author = presenter
  deck.company = ''
  deck.defineLayout({ name: LAYOUT, width: WIDE, height })
  deck.layout = LAYOUT
  // Titles stand above the slide: they are read, and hide nothing of what was shown.
  const above = { name: 'title', type: 'title', x: 0, y: -1, w: WIDE, h: 0.8 } as const
  deck.defineSlideMaster({ title: MASTER, objects: [{ placeholder: { options: above, text: '' } }] })
  for (const slide of slides) putSlide(deck, slide, height, held)
  const written = await fromBufferPromise(Buffer.from((await deck.write({ outputType: 'nodebuffer' })) as Uint8Array), {
    lazyEntries: true,
  })
  const size = { width: WIDE * EMU, height: height * EMU }
  const zip = new ZipFile()
  for await (const entry of written.eachEntry()) {
    if (entry.fileName.endsWith('/')) continue
    const bytes = await buffer(await written.openReadStreamPromise(entry))
    const found = held.find(bytes)
    if (found !== undefined && 'path' in found) zip.addFile(found.path, entry.fileName, { compress: false })
    else if (found !== undefined) zip.addBuffer(found, entry.fileName, { compress: false })
    else if (!/\.(xml|rels)$/.test(entry.fileName)) zip.addBuffer(bytes, entry.fileName)
    else zip.addBuffer(Buffer.from(changedPart(entry.fileName, bytes.toString('utf8'), slides, size)), entry.fileName)
  }
  for (const [n, { ink, inkPicture }] of slides.entries()) {
    if (ink.length === 0 || inkPicture === null) continue
    zip.addBuffer(Buffer.from(inkPart(ink, shape)), `ppt/ink/ink${String(n + 1)}.xml`)
    zip.addBuffer(inkPicture, `ppt/media/ink${String(n + 1)}.png`)
  }
  zip.end()
  await pipeline(zip.outputStream as Readable, createWriteStream(out, { mode: 0o600 }), { signal })
}

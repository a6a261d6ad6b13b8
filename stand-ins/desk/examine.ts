import { readFile, stat } from 'node:fs/promises'
import { imageSize } from 'image-size'
import type { Bounds, Rules } from '@core/rules'
import { lookInto, loudnessOf } from '../look-into'
import type { Found } from '../look-into'
import type { AnnouncedFile, Package } from '../package-store'

type FileOf = (role: AnnouncedFile['role']) => string | null

const outside = (value: number, { least = -Infinity, most = Infinity }: Bounds): boolean => value < least || value > most
const primary = (language: string): string => (language.split('-')[0] ?? '').toLowerCase()

/** What is looked at of a film. */
interface Seen {
  readonly found: Found
  readonly size: number
}
/** One thing that rules ask of a film. @returns what is wrong; null: nothing, or it is not asked for */
type Check = (rules: Rules, seen: Seen) => string | null

const container: Check = ({ containers }, { found }) =>
  containers?.every((one) => one !== found.container) === true ? `It is no ${containers.join(' or ')} file.` : null

const sound: Check = ({ audioCodecs }, { found }) => {
  const codec = found.audio?.codec.startsWith('pcm') === true ? 'pcm' : found.audio?.codec
  return audioCodecs?.every((one) => one !== codec) === true ? `Its sound is stored as ${codec ?? 'nothing'}.` : null
}

const lasting: Check = ({ length }, { found }) => {
  const { least = 0, most = Infinity } = length ?? {}
  return outside(found.length, { least: least * 1000, most: most * 1000 }) ? `It lasts ${(found.length / 1000).toFixed(2)} seconds.` : null
}

const weight: Check = ({ bytes = Infinity }, { size }) =>
  size > bytes ? `It has ${String(size)} bytes, and ${String(bytes)} are taken.` : null

/** A check of the picture, where one is asked for. */
const ofPicture =
  (asks: (rules: Rules) => unknown, check: (rules: Rules, video: NonNullable<Found['video']>) => string | null): Check =>
  (rules, { found: { video } }) => {
    if (asks(rules) === undefined) return null
    return video === null ? 'There is no picture in the film.' : check(rules, video)
  }

const CHECKS: readonly Check[] = [
  container,
  sound,
  lasting,
  weight,
  ofPicture(
    ({ videoCodecs }) => videoCodecs,
    ({ videoCodecs = [] }, { codec }) => (videoCodecs.some((one) => one === codec) ? null : `Its picture is stored as ${codec}.`),
  ),
  ofPicture(
    ({ lines }) => lines,
    ({ lines = {} }, { height }) => (outside(height, lines) ? `It has ${String(height)} lines.` : null),
  ),
  ofPicture(
    ({ shape }) => shape,
    ({ shape = { width: 1, height: 1 } }, { width, height }) =>
      Math.abs(width - (height * shape.width) / shape.height) > 1.5
        ? `Its picture has another shape than ${String(shape.width)} to ${String(shape.height)}.`
        : null,
  ),
  ofPicture(
    ({ rates }) => rates,
    ({ rates = [] }, { rate }) =>
      rates.every((one) => Math.abs(one - rate) > 0.005) ? `It has ${rate.toFixed(2)} frames a second.` : null,
  ),
]

async function loudnessFaults({ loudness }: Rules, path: string, found: Found): Promise<readonly string[]> {
  if (loudness === undefined) return []
  const measured = found.audio === null ? null : await loudnessOf(path)
  if (measured === null) return ['Nothing is heard in it.']
  return outside(Math.round(measured * 10) / 10, loudness) ? [`It is ${measured.toFixed(1)} LUFS loud.`] : []
}

/** Language that a file is said to be in. */
const languageOf = ({ files }: Package, role: AnnouncedFile['role']): string =>
  primary(files.find((file) => file.role === role)?.language ?? '')

async function captionFaults({ captions }: Rules, one: Package, fileOf: FileOf, found: Found): Promise<readonly string[]> {
  if (captions === undefined) return []
  const beside = fileOf('captions')
  const text = beside === null ? '' : await readFile(beside, 'utf8')
  const written = /^\uFEFF?WEBVTT\b/.test(text) && text.includes('-->')
  const inside = found.texts > 0
  if (!{ inside, beside: written, either: inside || written }[captions.where]) return ['There are no captions.']
  const other = captions.language !== undefined && beside !== null && languageOf(one, 'captions') !== primary(captions.language)
  return other ? ['The captions are in another language.'] : []
}

async function transcriptFaults({ transcript }: Rules, one: Package, fileOf: FileOf): Promise<readonly string[]> {
  if (transcript === undefined) return []
  const path = fileOf('transcript')
  if (path === null || (await readFile(path, 'utf8')).trim() === '') return ['There is no transcript.']
  const other = transcript.language !== undefined && languageOf(one, 'transcript') !== primary(transcript.language)
  return other ? ['The transcript is in another language.'] : []
}

async function coverFaults({ cover }: Rules, fileOf: FileOf): Promise<readonly string[]> {
  if (cover === undefined) return []
  const path = fileOf('cover')
  if (path === null) return ['There is no cover.']
  try {
    const { width, height } = imageSize(await readFile(path))
    return width < cover.width || height < cover.height ? [`The cover is ${String(width)} by ${String(height)}.`] : []
  } catch {
    return ['The cover is no picture.']
  }
}

const SIGNS = { anything: /.*/su, digits: /^\d*$/, letters: /^[\p{L}\p{M}]*$/u, 'letters-and-digits': /^[\p{L}\p{M}0-9]*$/u } as const

/** What is wrong with what was filled in, and with the film's name, which is made of it. */
function noteFaults({ fields = [], fileName }: Rules, { notes, files }: Package): readonly string[] {
  const said = (key: string): string => {
    const value = notes[key]
    return typeof value === 'string' ? value.trim() : ''
  }
  const faults = fields.flatMap(({ key, label, optional = false, signs = 'anything', length = {} }) => {
    const value = said(key)
    if (value === '') return optional ? [] : [`${label} is empty.`]
    return SIGNS[signs].test(value) && !outside([...value].length, length) ? [] : [`${label} has another form.`]
  })
  if (fileName === undefined || faults.length > 0) return faults
  // What no file system takes in a name stands there as a dash.
  const filled = fileName.replace(/\{([a-z]+)\}/g, (_, key: string) => said(key))
  const wanted = filled
    .normalize('NFC')
    .replace(/[/\\:*?"<>|\p{Cc}]+/gu, '-')
    .replace(/^[-_. ]+|[-_. ]+$/g, '')
  const is = (files.find(({ role }) => role === 'film')?.name ?? '').replace(/\.[^.]+$/, '')
  return is === wanted ? [] : [`The film is called ${is}, and not ${wanted}.`]
}

/** Looks at all that was handed in. @returns what is wrong with it, in words; empty: nothing */
export async function examine(rules: Rules, one: Package, fileOf: FileOf): Promise<readonly string[]> {
  const path = fileOf('film')
  if (path === null) return ['There is no film.']
  let found: Found
  try {
    found = await lookInto(path)
  } catch {
    return ['The film cannot be read: it is damaged, or no film.']
  }
  const seen = { found, size: (await stat(path)).size }
  return [
    ...new Set(CHECKS.flatMap((check) => check(rules, seen) ?? [])),
    ...(await loudnessFaults(rules, path, found)),
    ...(await captionFaults(rules, one, fileOf, found)),
    ...(await transcriptFaults(rules, one, fileOf)),
    ...(await coverFaults(rules, fileOf)),
    ...noteFaults(rules, one),
  ]
}

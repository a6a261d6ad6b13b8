import { languageName, primaryOf } from '@core/language'
import { fileName, withoutEnding } from '@core/plan'
import type { FileCompany, FileFacts } from './file-facts'
import { begun, boundsInWords, clockOf, codecName, megabytes, orOf, secondsInWords } from './rule-words'
import type { Bounds, FieldSigns, RuleField, Rules } from './rules'

/** What rules ask for, in the order in which it is said. */
export const RULE_KINDS = [
  'length',
  'format',
  'lines',
  'shape',
  'rate',
  'loudness',
  'size',
  'captions',
  'transcript',
  'cover',
  'fields',
  'name',
  'until',
  'tries',
] as const
export type RuleKind = (typeof RULE_KINDS)[number]

/** Whether a rule is kept: `open` is not known yet, or not done yet. */
export type RuleState = 'met' | 'open' | 'wrong'

/** One rule held against a file. */
export interface RuleLine {
  readonly kind: RuleKind
  readonly state: RuleState
  /** What is asked, as a sentence. */
  readonly asks: string
  /** What there is, and where it is not kept what is the matter. */
  readonly found: string
}

interface Judged {
  readonly rules: Rules
  readonly file: FileFacts
  readonly company: FileCompany
}
type Line = Omit<RuleLine, 'kind'>

const line = (state: RuleState, asks: string, found: string): Line => ({ state, asks, found })
const metOrWrong = (met: boolean): RuleState => (met ? 'met' : 'wrong')
const isWithin = (value: number, { least = -Infinity, most = Infinity }: Bounds): boolean => value >= least && value <= most

/** Two ratios of sides are one when they differ by less than a pixel and a half of what is shown. */
const SAME_SHAPE = 1.5
/** Rates are said with rounded figures: 29.97 is not 30, but 29.9701 is 29.97. */
const SAME_RATE = 0.005

/** What a file is to be called, without its ending; null: as one likes. */
export const wantedName = (rules: Rules, fields: Readonly<Record<string, string>>): string | null =>
  rules.fileName === undefined ? null : fileName(rules.fileName, { talk: '', date: '', lines: '', slide: '', number: '' }, fields)

/** What may be filled into a field, as a class that the whole of it is held against. Letters are those of any script. */
const SIGNS: Readonly<Record<FieldSigns, RegExp>> = {
  anything: /^/u,
  digits: /^[0-9]*$/u,
  letters: /^[\p{L}\p{M}]*$/u,
  'letters-and-digits': /^[\p{L}\p{M}0-9]*$/u,
}
const SIGN_WORDS: Readonly<Record<FieldSigns, string>> = {
  anything: 'signs',
  digits: 'digits',
  letters: 'letters',
  'letters-and-digits': 'letters and digits',
}

/** What may be filled into a field, in words; empty: anything. */
export function fieldInWords({ signs = 'anything', length: bounds }: RuleField): string {
  if (bounds === undefined) return signs === 'anything' ? '' : SIGN_WORDS[signs]
  return `${boundsInWords(bounds)} ${SIGN_WORDS[signs]}`
}

/** Fields that are still to be filled in, or filled in another way. */
export const faultyFields = ({ fields = [] }: Rules, filled: Readonly<Record<string, string>>): readonly RuleField[] =>
  fields.filter(({ key, optional = false, signs = 'anything', length: bounds = {} }) => {
    const said = (filled[key] ?? '').trim()
    if (said === '') return !optional
    return !SIGNS[signs].test(said) || !isWithin([...said].length, bounds)
  })

function length({ rules, file }: Judged): Line | null {
  const bounds = rules.length
  if (bounds === undefined) return null
  const asks = `${begun(boundsInWords(bounds, secondsInWords))} long.`
  const { least = 0, most = Infinity } = bounds
  if (file.length > most * 1000)
    return line('wrong', asks, `It is ${clockOf(file.length)}: ${clockOf(file.length - most * 1000)} too long.`)
  if (file.length < least * 1000)
    return line('wrong', asks, `It is ${clockOf(file.length)}: ${clockOf(least * 1000 - file.length)} too short.`)
  return line('met', asks, clockOf(file.length))
}

function size({ rules: { bytes: most }, file: { bytes, bytesOff, made } }: Judged): Line | null {
  if (most === undefined) return null
  const asks = `At most ${megabytes(most)}.`
  if (made) return line(metOrWrong(bytes <= most), asks, bytes <= most ? megabytes(bytes) : `It has ${megabytes(bytes)}.`)
  if (bytes * (1 + bytesOff) <= most) return line('met', asks, `about ${megabytes(bytes)}`)
  if (bytes > most) return line('wrong', asks, `It will have about ${megabytes(bytes)}.`)
  return line('open', asks, `It will have about ${megabytes(bytes)}; whether that is little enough is seen when it is made.`)
}

const videoName = (video: FileFacts['video']): string => (video === null ? 'no picture' : codecName(video.codec))
const audioName = (audio: FileFacts['audio']): string => (audio === null ? 'no sound' : codecName(audio.codec))

function format({ rules, file: { container, video, audio } }: Judged): Line | null {
  const { containers, videoCodecs, audioCodecs } = rules
  const parts = [
    containers && { asked: orOf(containers.map((one) => one.toUpperCase())), met: containers.some((one) => one === container) },
    videoCodecs && { asked: `${orOf(videoCodecs.map(codecName))} pictures`, met: videoCodecs.some((one) => one === video?.codec) },
    audioCodecs && { asked: `${orOf(audioCodecs.map(codecName))} sound`, met: audioCodecs.some((one) => one === audio?.codec) },
  ].flatMap((part) => part ?? [])
  if (parts.length === 0) return null
  const is = [(container ?? 'another kind of file').toUpperCase(), videoName(video), audioName(audio)].join(', ')
  const met = parts.every((part) => part.met)
  return line(metOrWrong(met), `${parts.map(({ asked }) => asked).join(', ')}.`, met ? is : `It is ${is}.`)
}

function lines({ rules, file: { video } }: Judged): Line | null {
  if (rules.lines === undefined) return null
  const asks = `${begun(boundsInWords(rules.lines))} lines.`
  if (video === null) return line('wrong', asks, 'It has no picture.')
  const met = isWithin(video.size.height, rules.lines)
  return line(metOrWrong(met), asks, met ? `${String(video.size.height)} lines` : `It has ${String(video.size.height)} lines.`)
}

function shape({ rules, file: { video } }: Judged): Line | null {
  if (rules.shape === undefined) return null
  const { width, height } = rules.shape
  const asks = `A picture of ${String(width)} to ${String(height)}.`
  if (video === null) return line('wrong', asks, 'It has no picture.')
  const met = Math.abs(video.size.width - (video.size.height * width) / height) <= SAME_SHAPE
  const is = `${String(video.size.width)} by ${String(video.size.height)}`
  return line(metOrWrong(met), asks, met ? is : `Its picture is ${is}.`)
}

function rate({ rules, file: { video } }: Judged): Line | null {
  if (rules.rates === undefined) return null
  const asks = `${orOf(rules.rates.map(String))} frames a second.`
  if (video === null) return line('wrong', asks, 'It has no picture.')
  const met = rules.rates.some((one) => Math.abs(one - video.rate) <= SAME_RATE)
  const is = String(Number(video.rate.toFixed(2)))
  return line(metOrWrong(met), asks, met ? is : `It has ${is}.`)
}

function loudness({ rules, file }: Judged): Line | null {
  if (rules.loudness === undefined) return null
  const asks = `As loud as ${boundsInWords(rules.loudness)} LUFS.`
  if (file.loudness === null) return line('wrong', asks, 'Nothing is heard in it.')
  const met = isWithin(file.loudness, rules.loudness)
  const is = `${file.loudness.toFixed(1)} LUFS`
  return line(metOrWrong(met), asks, met ? is : `It has ${is}.`)
}

/** What is the matter with words in a language; null: nothing. */
function wordsFault(words: string | null, language: string | undefined): string | null {
  if (words === null) return 'What is said is not known yet.'
  if (language === undefined || primaryOf(words) === primaryOf(language)) return null
  return `It is in ${languageName(words, 'en')}.`
}

function captions({ rules, file, company }: Judged): Line | null {
  const wanted = rules.captions
  if (wanted === undefined) return null
  const place = { inside: 'Captions in the file', beside: 'Captions in a file of their own', either: 'Captions' }[wanted.where]
  const asks = `${place}${wanted.language === undefined ? '' : `, in ${languageName(wanted.language, 'en')}`}.`
  const fault = wordsFault(company.words, wanted.language)
  if (fault !== null) return line('wrong', asks, fault)
  if (wanted.where === 'inside' && !file.captions) return line('wrong', asks, 'There are none in it.')
  return line('met', asks, file.captions ? 'in the file' : 'beside it')
}

function transcript({ rules, company }: Judged): Line | null {
  const wanted = rules.transcript
  if (wanted === undefined) return null
  const asks = `A transcript${wanted.language === undefined ? '' : ` in ${languageName(wanted.language, 'en')}`}.`
  const fault = wordsFault(company.words, wanted.language)
  return line(metOrWrong(fault === null), asks, fault ?? 'goes with it')
}

function cover({ rules, company: { cover: picture } }: Judged): Line | null {
  if (rules.cover === undefined) return null
  const { width, height } = rules.cover
  const asks = `A cover picture of at least ${String(width)} by ${String(height)}.`
  if (picture === null) return line('wrong', asks, 'There is none.')
  const met = picture.width >= width && picture.height >= height
  return line(metOrWrong(met), asks, `${met ? '' : 'It is '}${String(picture.width)} by ${String(picture.height)}${met ? '' : '.'}`)
}

function fields({ rules, company }: Judged): Line | null {
  const all = rules.fields ?? []
  if (all.length === 0) return null
  const asks = `Filled in: ${all.map(({ label, optional }) => `${label}${optional === true ? ' (if you like)' : ''}`).join(', ')}.`
  const faulty = faultyFields(rules, company.fields)
  if (faulty.length === 0) return line('met', asks, 'filled in')
  const empty = faulty.filter(({ key }) => (company.fields[key] ?? '').trim() === '')
  if (empty.length === faulty.length) return line('open', asks, `Still empty: ${empty.map(({ label }) => label).join(', ')}.`)
  const [bad] = faulty.filter((one) => !empty.includes(one))
  return line('wrong', asks, bad === undefined ? '' : `${bad.label} is to be ${fieldInWords(bad)}.`)
}

function name({ rules, file, company }: Judged): Line | null {
  const wanted = wantedName(rules, company.fields)
  if (wanted === null) return null
  const asks = `Named ${rules.fileName ?? ''}.`
  const needed = (rules.fields ?? []).some(
    ({ key }) => rules.fileName?.includes(`{${key}}`) === true && (company.fields[key] ?? '').trim() === '',
  )
  if (needed) return line('open', asks, 'Fields of the name are still empty.')
  const met = withoutEnding(file.name) === wanted
  return line(metOrWrong(met), asks, met ? file.name : `It is called ${file.name}.`)
}

function until({ rules, company }: Judged): Line | null {
  if (rules.until === undefined) return null
  const end = new Date(rules.until)
  const asks = `Handed in by ${end.toISOString().slice(0, 16).replace('T', ' ')} UTC.`
  const left = end.getTime() - company.now
  if (left < 0) return line('wrong', asks, 'That is over.')
  const hours = Math.floor(left / 3_600_000)
  const days = Math.floor(hours / 24)
  const within = hours === 0 ? 'within the hour' : `${String(hours)} hours left`
  return line('met', asks, days > 1 ? `${String(days)} days left` : within)
}

function tries({ rules, company }: Judged): Line | null {
  if (rules.tries === undefined) return null
  const left = rules.tries - company.tries
  return line(
    metOrWrong(left > 0),
    `Handed in at most ${rules.tries === 1 ? 'once' : `${String(rules.tries)} times`}.`,
    left > 0 ? `${String(left)} left` : 'None is left.',
  )
}

const JUDGES: Readonly<Record<RuleKind, (judged: Judged) => Line | null>> = {
  length,
  format,
  lines,
  shape,
  rate,
  loudness,
  size,
  captions,
  transcript,
  cover,
  fields,
  name,
  until,
  tries,
}

/**
 * Holds a file, and what goes with it, against rules.
 * @returns a line for each thing that is asked, in the order of `RULE_KINDS`
 */
export function judge(rules: Rules, file: FileFacts, company: FileCompany): readonly RuleLine[] {
  const judged = { rules, file, company }
  return RULE_KINDS.flatMap((kind) => {
    const found = JUDGES[kind](judged)
    return found === null ? [] : [{ kind, ...found }]
  })
}

/** What speaks against handing in, as sentences. */
export const faultsIn = (lines: readonly RuleLine[]): readonly string[] =>
  lines.filter(({ state }) => state !== 'met').map(({ asks, found }) => `${asks} ${found}`)

/** A file of which nothing is known yet. */
const NO_FILE: FileFacts = {
  made: false,
  name: '',
  length: 0,
  bytes: 0,
  bytesOff: 0,
  container: null,
  video: null,
  audio: null,
  loudness: null,
  captions: false,
}
const NO_COMPANY: FileCompany = { words: null, cover: null, fields: {}, now: 0, tries: 0 }

/** What rules ask for, in the order of `RULE_KINDS`, a sentence each. */
export const asksOf = (rules: Rules): readonly Pick<RuleLine, 'kind' | 'asks'>[] =>
  judge(rules, NO_FILE, NO_COMPANY).map(({ kind, asks }) => ({ kind, asks }))

/** Whether nothing speaks against handing in. */
export const isReady = (lines: readonly RuleLine[]): boolean => lines.every(({ state }) => state === 'met')

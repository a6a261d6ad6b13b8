import { createHash } from 'node:crypto'
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { isReady, judge } from '@core/rules'
import type { FileCompany, Rules } from '@core/rules'
import { run } from '@render/process'
import { plainPng } from '../harness/decks'
import { filmFacts } from '@render/clips'
import { startStandIns } from '../harness/stand-ins'
import type { StandInsRunning } from '../harness/stand-ins'

const RULES: Rules = {
  kind: 'talk-rules',
  version: 1,
  name: 'Small talks of the rope works',
  length: { least: 1, most: 3 },
  bytes: 400_000,
  containers: ['mp4', 'webm'],
  videoCodecs: ['h264', 'vp8'],
  audioCodecs: ['aac', 'opus'],
  lines: { least: 180, most: 360 },
  shape: { width: 16, height: 9 },
  rates: [25, 30],
  loudness: { least: -24, most: -14 },
  fileName: '{paper}-{surname}',
  captions: { where: 'either', language: 'en' },
  transcript: { language: 'en' },
  cover: { width: 320, height: 180 },
  fields: [
    { key: 'paper', label: 'Paper', signs: 'digits', length: { least: 1, most: 4 } },
    { key: 'surname', label: 'Surname', length: { least: 1, most: 40 } },
  ],
}

/** A file as it is made for the test, with what goes along. */
interface Made {
  readonly say: string
  readonly size: string
  readonly rate: string
  readonly seconds: number
  readonly ending: string
  readonly video: readonly string[]
  readonly audio: readonly string[]
  readonly decibels: number | null
  readonly captions: 'beside' | 'inside' | 'none'
  readonly language: string
  readonly transcript: boolean
  readonly cover: readonly [number, number] | null
  readonly fields: Readonly<Record<string, string>>
  readonly name: string | null
  /** Done to the bytes afterwards. */
  readonly harm: 'none' | 'half' | 'text' | 'nothing'
}
const X264 = ['-c:v', 'libx264', '-preset', 'ultrafast', '-pix_fmt', 'yuv420p']
const GOOD: Made = {
  say: 'good',
  size: '320x180',
  rate: '30',
  seconds: 2,
  ending: 'mp4',
  video: X264,
  audio: ['-c:a', 'aac', '-b:a', '96k'],
  decibels: 0,
  captions: 'beside',
  language: 'en',
  transcript: true,
  cover: [320, 180],
  fields: { paper: '7', surname: 'Lund' },
  name: null,
  harm: 'none',
}

/** What may be otherwise, alone and with others: rules and desk must find the same of every mixture. */
const CHANGES: readonly Partial<Made>[] = [
  { say: 'too long by a frame', seconds: 3.04 },
  { say: 'as long as may be', seconds: 2.96 },
  { say: 'too short', seconds: 0.9 },
  { say: '24 frames', rate: '24' },
  { say: '25 frames', rate: '25' },
  { say: '29.97 frames', rate: '30000/1001' },
  { say: '60 frames', rate: '60' },
  { say: 'too few lines', size: '256x144' },
  { say: 'too many lines', size: '640x400' },
  { say: 'most lines', size: '640x360' },
  { say: 'a square', size: '240x240' },
  { say: 'a shape that is rounded', size: '426x240' },
  { say: 'webm', ending: 'webm', video: ['-c:v', 'libvpx', '-deadline', 'realtime', '-b:v', '300k'], audio: ['-c:a', 'libopus'] },
  { say: 'mkv', ending: 'mkv' },
  { say: 'mov', ending: 'mov' },
  { say: 'mpeg 4 part 2', video: ['-c:v', 'mpeg4'] },
  { say: 'mp3 inside', audio: ['-c:a', 'libmp3lame'] },
  { say: 'vorbis', ending: 'webm', video: ['-c:v', 'libvpx', '-deadline', 'realtime', '-b:v', '300k'], audio: ['-c:a', 'libvorbis'] },
  { say: 'soft', decibels: -18 },
  { say: 'loud', decibels: 14 },
  { say: 'silent', decibels: null },
  { say: 'without sound', audio: ['-an'] },
  { say: 'without a picture', video: ['-vn'] },
  { say: 'too large', video: ['-c:v', 'libx264', '-preset', 'ultrafast', '-pix_fmt', 'yuv420p', '-qp', '1'], size: '640x360' },
  { say: 'captions inside', captions: 'inside' },
  { say: 'no captions', captions: 'none' },
  { say: 'in German', language: 'de' },
  { say: 'in British English', language: 'en-GB' },
  { say: 'no transcript', transcript: false },
  { say: 'no cover', cover: null },
  { say: 'a small cover', cover: [319, 180] },
  { say: 'a large cover', cover: [640, 360] },
  { say: 'no paper', fields: { paper: '', surname: 'Lund' } },
  { say: 'a paper with letters', fields: { paper: 'P7', surname: 'Lund' } },
  { say: 'a paper with too many digits', fields: { paper: '12345', surname: 'Lund' } },
  { say: 'a surname with marks', fields: { paper: '7', surname: "Ø'Hara/Lund" } },
  { say: 'a surname with a dot at its end', fields: { paper: '7', surname: 'Lund jr.' } },
  { say: 'called otherwise', name: 'final' },
  { say: 'called like it in small letters', name: '7-lund' },
  { say: 'cut in half', harm: 'half' },
  { say: 'words', harm: 'text' },
  { say: 'empty', harm: 'nothing' },
]
/** Of those the ones that keep the rules. */
const HARMLESS = [
  'as long as may be',
  '25 frames',
  'most lines',
  'webm',
  'captions inside',
  'in British English',
  'a large cover',
  'a surname with marks',
] as const
const mixed = (first: Partial<Made>, second: Partial<Made>): Made => ({
  ...GOOD,
  ...second,
  ...first,
  say: `${first.say ?? ''} and ${second.say ?? ''}`,
})
const harmless = CHANGES.filter(({ say }) => HARMLESS.some((one) => one === say))

/** Each alone, each with one some places further on, and those that keep the rules with each other. */
const FILES: readonly Made[] = [
  GOOD,
  ...CHANGES.map((change) => ({ ...GOOD, ...change })),
  ...CHANGES.map((change, n) => mixed(change, CHANGES[(n + 5) % CHANGES.length] ?? {})),
  ...harmless.flatMap((first, n) => harmless.slice(n + 1).map((second) => mixed(first, second))),
]

let folder: string
let standIns: StandInsRunning
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'aisle-desk-'))
  standIns = await startStandIns({ rules: RULES })
})
afterAll(async () => {
  await standIns.close()
  await rm(folder, { recursive: true, force: true })
})

const VTT = 'WEBVTT\n\n00:00.000 --> 00:01.000\nSwifts sleep in the air.\n'

async function filmOf(made: Made, path: string): Promise<void> {
  const { size, rate, seconds, video, audio, decibels, captions, harm } = made
  const beside = `${path}.vtt`
  await writeFile(beside, VTT)
  const sound = decibels === null ? 'anullsrc=r=48000' : `sine=frequency=440:sample_rate=48000,volume=${String(decibels)}dB`
  const withText = captions === 'inside' && made.ending === 'mp4'
  await run('ffmpeg', [
    ...['-v', 'error', '-y', '-f', 'lavfi', '-i', `testsrc2=size=${size}:rate=${rate}`, '-f', 'lavfi', '-i', sound],
    ...(withText ? ['-i', beside] : []),
    ...['-map', '0:v', '-map', '1:a', ...(withText ? ['-map', '2:s', '-c:s', 'mov_text'] : [])],
    ...['-t', String(seconds), ...video, ...audio, path],
  ])
  const bytes = await readFile(path)
  if (harm === 'half') await writeFile(path, bytes.subarray(0, bytes.length / 2))
  if (harm === 'text') await writeFile(path, 'Swifts sleep in the air.')
  if (harm === 'nothing') await writeFile(path, '')
}

interface Along {
  readonly role: string
  readonly name: string
  readonly bytes: Buffer
  readonly language?: string
}

/** Hands files in by the protocol of docs/formats.md. @returns why they are refused; empty: they are not */
async function handIn(files: readonly Along[], notes: Made['fields']): Promise<readonly string[]> {
  const desk = `${standIns.address}/desk`
  const announced = files.map(({ bytes, ...rest }) => ({
    ...rest,
    bytes: bytes.length,
    sha256: createHash('sha256').update(bytes).digest('hex'),
  }))
  const post = (path: string, body: object): Promise<Response> =>
    fetch(`${desk}${path}`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) })
  const { package: id } = (await (await post('/packages', { notes, files: announced })).json()) as { package: string }
  for (const { role, bytes } of files) {
    const metadata = Object.entries({ package: id, role }).map(([key, value]) => `${key} ${Buffer.from(value).toString('base64')}`)
    const made = await fetch(`${desk}/uploads`, {
      method: 'POST',
      headers: { 'tus-resumable': '1.0.0', 'upload-length': String(bytes.length), 'upload-metadata': metadata.join(',') },
    })
    expect(made.status).toBe(201)
    if (bytes.length === 0) continue
    const put = await fetch(made.headers.get('location') ?? '', {
      method: 'PATCH',
      headers: { 'tus-resumable': '1.0.0', 'upload-offset': '0', 'content-type': 'application/offset+octet-stream' },
      body: new Uint8Array(bytes),
    })
    expect(put.status).toBe(204)
  }
  const closed = (await (await post(`/packages/${id}/close`, {})).json()) as { refused?: readonly string[] }
  return closed.refused ?? []
}

it('accepts what our rules call ready and refuses what they call wrong, over a hundred made files', async () => {
  const differ: unknown[] = []
  let ready = 0
  for (const [n, made] of FILES.entries()) {
    const path = join(folder, `${String(n)}.${made.ending}`)
    await filmOf(made, path)
    const name = made.name ?? `${made.fields['paper'] ?? ''}-${(made.fields['surname'] ?? '').replaceAll('/', '-').replace(/\.$/, '')}`
    const company: FileCompany = {
      words: made.language,
      cover: made.cover === null ? null : { width: made.cover[0], height: made.cover[1] },
      fields: made.fields,
      now: Date.now(),
      tries: 0,
    }
    const along: Along[] = [
      ...(made.captions === 'none' ? [] : [{ role: 'captions', name: 'c.vtt', bytes: Buffer.from(VTT), language: made.language }]),
      ...(made.transcript ? [{ role: 'transcript', name: 't.txt', bytes: Buffer.from('Swifts sleep.'), language: made.language }] : []),
      ...(made.cover === null ? [] : [{ role: 'cover', name: 'c.png', bytes: plainPng(...made.cover, 'teal') }]),
    ]
    // What is known of the words is known of captions and transcript alike; where either is missing we say so by the other.
    const words = made.transcript && made.captions !== 'none' ? made.language : null
    const facts = await filmFacts(path, `${name}.${made.ending}`, 60_000).catch(() => null)
    const lines = facts === null ? [] : judge(RULES, facts, { ...company, words })
    const ours = facts !== null && isReady(lines)
    const refused = await handIn([{ role: 'film', name: `${name}.${made.ending}`, bytes: await readFile(path) }, ...along], made.fields)
    if (ours) ready += 1
    if (ours !== (refused.length === 0))
      differ.push({ file: made.say, ours: lines.filter(({ state }) => state !== 'met').map(({ kind, found }) => [kind, found]), refused })
  }
  expect(FILES.length).toBeGreaterThanOrEqual(100)
  expect(differ).toEqual([])
  expect(ready).toBeGreaterThan(30)
}, 600_000)

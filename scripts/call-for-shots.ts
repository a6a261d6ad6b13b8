import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { BegunView, CallView, RegisterView } from '@contracts'
import { run } from '@render/process'
import { callFields } from '../tests/harness/calls'
import { Client } from '../tests/harness/client'
import { until } from '../tests/harness/run-product'

/** Longest that a talk may be, in seconds. */
const LIMIT = 300
const FIELDS = callFields({
  title: 'Knots of the harbour, class 9b',
  asks: 'Show one knot that holds something in our harbour. Say what it holds, what it does not, and tie it while you speak.',
  rules: {
    kind: 'talk-rules',
    version: 1,
    name: 'a class page',
    length: { most: LIMIT },
    containers: ['mp4'],
    lines: { least: 360, most: 720 },
  },
  until: new Date(Date.now() + 6 * 86_400_000).toISOString(),
  late: 'marked',
  faulty: 'marked',
})

/** Who hands in what, and how long it is in seconds; 0: nothing yet. */
const PEOPLE = [
  { name: 'Ilse Brandt', talk: 'The bowline, and why it never slips', seconds: 262 },
  { name: 'Jonas Wren', talk: 'Clove hitch on a wet post', seconds: 318 },
  { name: 'Pia Lund', talk: 'A reef knot is not for joining ropes', seconds: 241 },
  { name: 'Tomas Reed', talk: 'Sheet bend', seconds: 187 },
  { name: 'Hanne Vik', talk: '', seconds: 0 },
] as const

/** A film of one picture with a tone. @param picture a JPEG */
async function filmOf(picture: Uint8Array, seconds: number): Promise<Uint8Array> {
  const folder = await mkdtemp(join(tmpdir(), 'aisle-shots-'))
  try {
    const [still, film] = [join(folder, 'still.jpg'), join(folder, 'film.mp4')]
    await writeFile(still, picture)
    const pictures = ['-loop', '1', '-framerate', '5', '-i', still, '-vf', 'scale=1280:720', '-pix_fmt', 'yuv420p']
    const tone = ['-f', 'lavfi', '-i', `sine=frequency=330:duration=${String(seconds)}`]
    await run('ffmpeg', ['-loglevel', 'error', ...pictures.slice(0, 6), ...tone, ...pictures.slice(6), '-t', String(seconds), '-y', film])
    return new Uint8Array(await readFile(film))
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}

/**
 * Makes a call in a running product, has some people hand in, and sends what is too long back.
 * @param picture that their films show, a JPEG
 * @returns the call, and the link of whom something was sent back to
 */
export async function answeredCall(url: string, picture: Uint8Array): Promise<{ readonly call: CallView; readonly own: string }> {
  const teacher = new Client(url)
  const call = await teacher.get<CallView>('POST', '/calls', FIELDS)
  const key = call.link.split('/').at(-1) ?? ''
  let own = ''
  for (const { name, talk, seconds } of PEOPLE) {
    const pupil = new Client(url)
    const begun = await pupil.get<BegunView>('POST', `/entrances/${key}/begin`, { name, address: null })
    if (seconds === 0) continue
    await pupil.get('PATCH', `/talks/${begun.talk}`, { name: talk })
    const form = new FormData()
    form.append('film', new Blob([await filmOf(picture, seconds)]), 'knot.mp4')
    await pupil.get('POST', `/talks/${begun.talk}/entry/files`, form)
    const entry = await until('the entry', async () => {
      const { rows } = await teacher.get<RegisterView>('GET', `/calls/${call.id}/register`)
      return rows.find((row) => row.name === name)?.entry ?? undefined
    })
    if (seconds <= LIMIT) continue
    own = begun.link
    const remark = 'Eighteen seconds too long: leave out the second post, and hand in again.'
    await teacher.get('PATCH', `/calls/${call.id}/entries/${entry.id}`, { review: 'sent-back', remark })
  }
  return { call, own }
}

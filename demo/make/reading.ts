import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { spokenLines } from '@core/markup'
import { feed, start } from '@render/process'
import { SAMPLE_RATE } from '@render/sound'
import { quiet, say } from './make-take'
import { swiftsNotes, twelfthsNotes } from './words'

/**
 * Makes a reading aloud whose every sentence has a known time, for measuring how well the notes keep up with a voice:
 * more than two minutes, each sentence followed by a pause, every seventh by a long one. Needs Debian's ffmpeg and flite.
 */
const LENGTH = 135_000
const scratch = mkdtempSync(join(tmpdir(), 'aisle-reading-'))
mkdirSync('demo/reading', { recursive: true })

const sentences = spokenLines([...swiftsNotes, ...twelfthsNotes].join('\n\n')).flatMap((line) =>
  line.kind === 'words'
    ? [
        line.runs
          .map((run) => run.text)
          .join('')
          .trim(),
      ]
    : [],
)
const { child, done } = start('ffmpeg', [
  '-hide_banner',
  '-loglevel',
  'error',
  '-f',
  's16le',
  '-ar',
  String(SAMPLE_RATE),
  '-ac',
  '1',
  '-i',
  'pipe:0',
  '-c:a',
  'libopus',
  '-b:a',
  '32k',
  '-y',
  'demo/reading/reading.ogg',
])
const bytesOf = (block: Int16Array): Buffer => Buffer.from(block.buffer, block.byteOffset, block.byteLength)
const lines: { text: string; from: number; to: number }[] = []
let at = 1000
await feed(child, bytesOf(quiet(at)))
for (const [n, text] of sentences.entries()) {
  if (at > LENGTH) break
  const spoken = await say(text, scratch)
  const length = Math.round((spoken.length / SAMPLE_RATE) * 1000)
  const pause = n % 7 === 6 ? 4000 : 400 + ((n * 373) % 700)
  lines.push({ text, from: at, to: at + length })
  await feed(child, bytesOf(spoken))
  await feed(child, bytesOf(quiet(pause)))
  at += length + pause
}
child.stdin?.end()
await done
writeFileSync('demo/reading/reading.json', `${JSON.stringify(lines, null, 1)}\n`)

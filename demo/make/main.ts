import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { feed, start } from '@render/process'
import { SAMPLE_RATE } from '@render/sound'
import type { DemoTalk } from '../talk-file'
import { makeDeck } from './make-deck'
import { makeStretch, say } from './make-take'
import { swiftsDeck } from './swifts-deck'
import { takePlan } from './take-plan'
import { twelfthsDeck } from './twelfths-deck'
import { swiftsNotes, twelfthsDescriptions, twelfthsNotes } from './words'

/**
 * Makes what ships as demo data: two decks, a recorded take, the practice microphone's voice. Needs Debian's packages
 * chromium, ffmpeg and flite; run it again only to change the demo.
 */
const scratch = mkdtempSync(join(tmpdir(), 'aisle-demo-'))
const twelfths = 'demo/talks/twelfths'
const swifts = 'demo/talks/swifts'

const keep = (folder: string, talk: DemoTalk): void => {
  writeFileSync(join(folder, 'talk.json'), `${JSON.stringify(talk)}\n`)
}

await makeDeck('The rule of twelfths', twelfthsDeck, join(twelfths, 'deck.pdf'))
await makeDeck('Counting swifts by ear', swiftsDeck, join(swifts, 'deck.pdf'))

const stretches = []
for (const [n, plans] of takePlan.entries()) {
  stretches.push(await makeStretch(plans, twelfthsNotes, `stretch-${String(n + 1)}.webm`, twelfths, scratch))
}
keep(twelfths, {
  name: 'The rule of twelfths',
  limit: 600_000,
  notes: twelfthsNotes,
  descriptions: twelfthsDescriptions,
  stretches,
})
keep(swifts, { name: 'Counting swifts by ear', limit: 480_000, notes: swiftsNotes, descriptions: [], stretches: [] })

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
  '40k',
  '-y',
  'public/practice/voice.ogg',
])
for (const note of swiftsNotes.filter((text) => text !== '')) {
  const spoken = await say(note, scratch)
  await feed(child, Buffer.from(spoken.buffer, spoken.byteOffset, spoken.byteLength))
  await feed(child, Buffer.alloc(SAMPLE_RATE))
}
child.stdin?.end()
await done

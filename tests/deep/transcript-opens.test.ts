import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createCanvas } from '@napi-rs/canvas'
import { afterAll, beforeAll, expect, it } from 'vitest'
import type { Transcript } from '@core/formats'
import { run } from '@render/process'
import { transcriptDocument } from '@render/transcript'

let folder: string
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'aisle-document-'))
})
afterAll(async () => {
  await rm(folder, { recursive: true })
})

it('a transcript opens in an office program: with its headings, its pictures, and every sign of what is said', async () => {
  const picture = createCanvas(320, 180)
  const ctx = picture.getContext('2d')
  ctx.fillStyle = '#1F5A4C'
  ctx.fillRect(0, 0, 320, 180)
  const jpeg = (await picture.encode('jpeg')).toString('base64')
  const transcript: Transcript = {
    title: 'Ropes & “knots” <for all>',
    presenter: 'Orla Fenwick',
    date: '30 November 2026',
    language: 'en',
    talks: [
      {
        name: 'First evening',
        parts: [
          {
            heading: 'The bowline',
            from: 61_000,
            picture: { jpeg, ratio: 9 / 16 },
            paragraphs: ['Turn the rope 3 times, then pull: 5 < 6 & ½ of “it” holds.', 'Nobody sails\u0000 before noon. 漢字 и مرحبا.'],
            viewerNotes: '**Bring** a rope.\n\n- two metres',
          },
        ],
      },
      { name: 'Second evening', parts: [{ heading: 'The hitch', from: 0, picture: null, paragraphs: ['Calm.'], viewerNotes: '' }] },
    ],
  }
  await writeFile(join(folder, 'transcript.docx'), await transcriptDocument(transcript))
  const profile = `-env:UserInstallation=file://${join(folder, 'profile')}`
  const args = ['--headless', '--norestore', '--convert-to', 'fodt', '--outdir', folder, join(folder, 'transcript.docx')]
  await run('soffice', [profile, ...args], { hold: { time: 120_000 } })
  const read = await readFile(join(folder, 'transcript.fodt'), 'utf8')
  const headings = [...read.matchAll(/<text:h [^>]*text:outline-level="(\d)"[^>]*>(.*?)<\/text:h>/gs)].map(
    ([, level, words]) => `${level ?? ''} ${(words ?? '').replaceAll(/<text:s[^>]*\/>/g, ' ').replaceAll(/<[^>]*>/g, '')}`,
  )
  expect(headings).toEqual(['1 First evening', '2 The bowline  1:01', '1 Second evening', '2 The hitch  0:00'])
  const plain = read
    .slice(read.indexOf('<office:text'))
    .replaceAll(/<[^>]*>/g, '')
    .replaceAll('&lt;', '<')
    .replaceAll('&gt;', '>')
    .replaceAll('&amp;', '&')
  for (const said of [
    'Ropes & “knots” <for all>',
    'Orla Fenwick, 30 November 2026',
    '5 < 6 & ½ of “it” holds.',
    'Nobody sails before noon. 漢字 и مرحبا.',
    'Bring a rope.',
  ])
    expect(plain).toContain(said)
  expect(read.match(/<draw:image/g)).toHaveLength(1)
})

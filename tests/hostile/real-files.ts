import { readFile } from 'node:fs/promises'
import { createCanvas } from '@napi-rs/canvas'
import { run } from '@render/process'
import { KNOTS, LESSON, awkwardPdf, buildingPdf, makePdf, makeZip, plainPng } from '../harness/decks'
import { makeOfficeDeck } from '../harness/office-decks'
import { facedRecording, toneRecording } from '../harness/recording'
import type { Door } from './input'

/** A real file that is damaged, and where it goes in. */
export interface RealFile {
  readonly kind: 'pdf' | 'office' | 'picture' | 'zip' | 'text' | 'sound' | 'recording'
  readonly door: Door
  readonly file: string
  readonly bytes: Buffer
}

/** Something drawn, so that there is more in it than one colour. */
function drawnPicture(type: 'jpeg' | 'webp'): Promise<Buffer> {
  const canvas = createCanvas(320, 180)
  const ctx = canvas.getContext('2d')
  for (let n = 0; n < 60; n += 1) {
    ctx.fillStyle = `hsl(${String(n * 6)} 70% 50%)`
    ctx.fillRect((n * 37) % 320, (n * 53) % 180, 60, 40)
  }
  return type === 'jpeg' ? canvas.encode('jpeg', 80) : canvas.encode('webp', 80)
}

async function sound(ending: string, args: readonly string[]): Promise<RealFile> {
  const { stdout } = await run('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', 'sine=frequency=330:duration=1.5', ...args, 'pipe:1'])
  return { kind: 'sound', door: 'sound', file: `voice.${ending}`, bytes: stdout }
}

/** An office deck with a click and notes. */
const eveningDeck = (): Promise<Buffer> =>
  makeOfficeDeck([
    {
      put: (slide) => {
        slide.addText('An evening at the wall', { x: 1, y: 1, w: 8, h: 1 })
        slide.addShape('rect', { x: 2, y: 3, w: 2, h: 2, fill: { color: '2F8F5B' } })
      },
      effects: [{ shape: 3, does: 'entrance', begins: 'click' }],
      notes: 'Wait for the first party.',
    },
  ])

/** Files as people have them, of every kind that can be brought in. */
export async function realFiles(): Promise<readonly RealFile[]> {
  const pdf = (file: string, bytes: Uint8Array): RealFile => ({ kind: 'pdf', door: 'deck', file, bytes: Buffer.from(bytes) })
  const [jpeg, webp] = [await drawnPicture('jpeg'), await drawnPicture('webp')]
  const pictures = [
    ['pier.png', plainPng(200, 120, 'teal')],
    ['pier.jpg', jpeg],
    ['pier.webp', webp],
  ] as const
  return [
    pdf('knots.pdf', await makePdf(KNOTS)),
    pdf('awkward.pdf', await awkwardPdf()),
    pdf('builds.pdf', await buildingPdf()),
    pdf('twelfths.pdf', await readFile('demo/talks/twelfths/deck.pdf')),
    { kind: 'office', door: 'deck', file: 'evening.pptx', bytes: await eveningDeck() },
    ...pictures.flatMap(([file, bytes]): readonly RealFile[] => [
      { kind: 'picture', door: 'deck', file, bytes },
      { kind: 'picture', door: 'picture', file, bytes },
    ]),
    { kind: 'zip', door: 'deck', file: 'lesson.zip', bytes: await makeZip({ 'lesson.md': LESSON, 'pier.png': plainPng(80, 60, 'navy') }) },
    { kind: 'zip', door: 'deck', file: 'pages.zip', bytes: await makeZip({ 'knots.pdf': await makePdf(KNOTS), 'pier.jpg': jpeg }) },
    { kind: 'text', door: 'deck', file: 'lesson.md', bytes: Buffer.from(LESSON.replace(/!\[.*\n/g, '')) },
    {
      kind: 'text',
      door: 'deck',
      file: 'table.md',
      bytes: Buffer.from(
        '# Tides\n\n| hour | part |\n|---|---|\n| 1 | 1/12 |\n| 2 | 2/12 |\n\n## More\n\n1. one\n   - two\n     > ' +
          'three\n\n`code` **bold** [x](#y)\n',
      ),
    },
    await sound('wav', ['-f', 'wav']),
    await sound('mp3', ['-c:a', 'libmp3lame', '-f', 'mp3']),
    await sound('flac', ['-f', 'flac']),
    await sound('ogg', ['-c:a', 'libvorbis', '-f', 'ogg']),
    await sound('m4a', ['-c:a', 'aac', '-movflags', '+frag_keyframe+empty_moov', '-f', 'mp4']),
    { kind: 'recording', door: 'recording', file: 'face.webm', bytes: await facedRecording(1.5, 'teal', 20) },
    { kind: 'recording', door: 'recording', file: 'tone.webm', bytes: await toneRecording(1.5) },
  ]
}

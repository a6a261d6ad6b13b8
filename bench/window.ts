import { readdir } from 'node:fs/promises'
import { join } from 'node:path'
import type { FilmView, TalkView } from '@contracts'
import { PROGRAM_LENGTH } from '@core/practice'
import { probe } from '@render/probe'
import { run } from '@render/process'
import { ask, checkedRoom, record, sleep, stopTake } from '../tests/harness/timed-take'
import { openPage, startRunning } from './running-product'
import type { RunningProduct } from './running-product'
import type { Figure } from './figure'

/** How often the practice window is seen from its beginning to its end. */
const ROUNDS = 3
/** Pictures a second that are asked of a window, and of the camera beside it. */
const ASKED = { window: 15, camera: 30 } as const
/** How much of them is to be kept at least, and how near a clip at rest is to be to what the window looked like, in dB. */
const KEPT = 0.9
const SHARP = 38

/** Packets of pictures a second of a recording, and its lines. */
async function picturesOf(recording: string, length: number): Promise<{ readonly aSecond: number; readonly lines: number }> {
  const video = (await probe(recording)).streams.find((stream) => stream.codec_type === 'video')
  return { aSecond: (Number(video?.nb_read_packets ?? 0) * 1000) / length, lines: video?.height ?? 0 }
}

/** How near a picture of a clip is to the full-size picture of its window, in dB (PSNR of all planes). @param at in seconds */
async function nearness(clip: string, at: number, still: string): Promise<number> {
  const graph = '[0:v]format=rgb24[a];[1:v]format=rgb24[b];[a][b]psnr'
  const args = ['-hide_banner', '-nostats', '-ss', at.toFixed(3), '-i', clip, '-i', still, '-filter_complex', graph, '-frames:v', '1']
  const { stderr } = await run('ffmpeg', [...args, '-f', 'null', '-'])
  return Number(/average:([\d.]+|inf)/.exec(stderr)?.[1]?.replace('inf', '99') ?? 0)
}

async function talkOf(product: RunningProduct): Promise<string> {
  const talks = await ask<readonly { readonly id: string; readonly name: string }[]>(product, 'GET', '/talks')
  return talks.find(({ name }) => name === 'Counting swifts by ear')?.id ?? ''
}

/**
 * A window shown at the Lectern while face and voice are recorded: how many of its pictures are kept while it moves, how many of the
 * camera's beside it, and how near it is at rest to what it looked like.
 */
export async function measure(): Promise<Figure> {
  const product = await startRunning(4395)
  const { page, close } = await openPage()
  try {
    const talk = await talkOf(product)
    await checkedRoom(page, product, talk, false)
    await page.keyboard.press('q')
    await page.getByRole('button', { name: 'Practice window' }).click()
    await page.getByText('is ready').waitFor()
    await page.keyboard.press('Escape')
    await page.getByRole('dialog', { name: 'Show a window' }).waitFor({ state: 'hidden' })
    await record(page)
    await sleep(1000)
    await page.keyboard.press('q')
    await page.getByRole('button', { name: /^To the slides/ }).waitFor()
    await sleep(ROUNDS * PROGRAM_LENGTH)
    await page.keyboard.press('q')
    await sleep(1000)
    await stopTake(page)
    const view = await ask<TalkView>(product, 'GET', `/talks/${talk}`)
    const film = await ask<FilmView>(product, 'GET', `/talks/${talk}/film`)
    const clip = view.slides.flatMap(({ clips }) => clips ?? []).find(({ captured }) => captured === true)
    const stretch = film.stretches.find(({ cues }) => cues.some((cue) => cue.kind === 'clip' && cue.clip === clip?.id))
    if (clip === undefined || stretch === undefined) throw new Error('no window was recorded')
    const folder = join(product.data, 'store', 'stretches')
    const names = await Promise.all((await readdir(folder)).map(async (name) => ({ name, files: await readdir(join(folder, name)) })))
    const own = names.find(({ files }) => files.some((file) => file.startsWith('still-')))?.name
    if (own === undefined) throw new Error('the window never rested')
    const window = await picturesOf(join(folder, own, 'raw.webm'), clip.media.length)
    const camera = await picturesOf(join(folder, stretch.id, 'recording.webm'), stretch.length)
    const file = join(product.data, 'store', 'assets', clip.media.file.slice(0, 2), clip.media.file)
    const halts = stretch.cues.flatMap((cue) => (cue.kind === 'clip' && !cue.playing ? [cue.place] : []))
    const stills = (await readdir(join(folder, own))).filter((name) => name.startsWith('still-')).map((name) => join(folder, own, name))
    const sharp: number[] = []
    // Which picture is which rest's is not told: it is the one that is nearest.
    for (const at of halts) sharp.push(Math.max(...(await Promise.all(stills.map((still) => nearness(file, at / 1000 + 0.2, still))))))
    const ok =
      window.aSecond >= ASKED.window * KEPT && camera.aSecond >= ASKED.camera * KEPT && sharp.length > 0 && Math.min(...sharp) >= SHARP
    return {
      value: Number(window.aSecond.toFixed(1)),
      unit: 'pictures a second',
      target: `${String(ASKED.window * KEPT)}, the camera's ${String(ASKED.camera * KEPT)} beside it, ${String(SHARP)} dB at rest`,
      ok,
      detail: {
        lines: window.lines,
        camera: Number(camera.aSecond.toFixed(1)),
        cameraLines: camera.lines,
        stills: stills.length,
        restsDb: sharp.map((one) => Number(one.toFixed(1))),
        lengthMs: clip.media.length,
      },
    }
  } finally {
    await close()
    await product.stop()
  }
}

import { randomUUID } from 'node:crypto'
import { mkdir, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { TUNE_NAMES, samplesOfTune } from '@core/music'
import type { Tune } from '@core/music'
import { Refusal } from '@core/model'
import type { ClipMedia } from '@core/model'
import { bringClip } from '@render/clips'
import { SAMPLE_RATE, wavOf } from '@render/sound'
import type { MusicView } from '@contracts'
import type { Queries } from '@server/database'
import { settings } from '@server/settings'
import { removeTree, uploadFolder } from '@server/store'
import { keepClip } from './clips'
import { inTurn } from './in-turn'
import type { Uploaded } from './kept-for-talk'
import { roomInQuota } from './quotas'

/** Music of which there is less is none, in ms. */
const LEAST = 2000

/** Makes music of a file in a folder of its own, and keeps it. @throws Refusal */
async function keepMusic(q: Queries, talk: string, path: string, name: string, out: string): Promise<ClipMedia> {
  const made = await inTurn(() => bringClip(path, { out, name: 'music', time: settings().clipTime }))
  if (!made.sound || made.loudness === null) throw new Refusal('unreadable', `Nothing is to be heard in “${name}”. Bring another file.`)
  if (made.length < LEAST) throw new Refusal('unreadable', `“${name}” is shorter than two seconds. Bring a longer one.`)
  if (made.picture !== null) throw new Refusal('malformed', `“${name}” is a film. Bring a sound: MP3, WAV, M4A, Ogg or FLAC.`)
  return (await keepClip(q, talk, out, name, made)).media
}

async function inFolder<Result>(work: (out: string) => Promise<Result>): Promise<Result> {
  const out = join(uploadFolder(), `music-${randomUUID()}`)
  await mkdir(out, { recursive: true })
  try {
    return await work(out)
  } finally {
    await removeTree(out)
  }
}

/**
 * Takes in a sound file as music of a talk: it is read in processes that are held to limits, and kept as we packed it.
 * @throws Refusal when it is not one file, or nothing is to be heard in it
 */
export async function takeInMusic(q: Queries, talk: string, files: readonly Uploaded[]): Promise<MusicView> {
  const [file] = files
  if (file === undefined || files.length > 1) throw new Refusal('malformed', 'Bring one sound file.')
  if (file.bytes === 0) throw new Refusal('unreadable', `“${file.name}” is empty. Bring another file.`)
  await roomInQuota(q, talk, file.bytes)
  return await inFolder(async (out) => ({ name: file.name, credit: '', media: await keepMusic(q, talk, file.path, file.name, out) }))
}

/** Puts one of the tunes that ship among a talk's own files. */
export const takeTune = (q: Queries, talk: string, tune: Tune): Promise<MusicView> =>
  inFolder(async (out) => {
    const [samples, wav] = [join(out, 'samples'), join(out, 'tune.wav')]
    const made = samplesOfTune(tune, SAMPLE_RATE)
    await writeFile(samples, new Uint8Array(made.buffer))
    await wavOf([{ path: samples, length: (made.length * 1000) / SAMPLE_RATE }], wav)
    const name = TUNE_NAMES[tune]
    return { name, credit: `${name}, made for Aisle Talk`, media: await keepMusic(q, talk, wav, name, out) }
  })

import { byHand } from './by-hand'
import { strangeBody } from './bodies'
import type { HostileInput } from './input'
import { mutated, zzuffed } from './mutate'
import { realFiles } from './real-files'

/** So many of the damaged files are damaged by zzuf, of each ten. */
const BY_ZZUF = 3
/** How many of its bits change, by turns. */
const RATIOS = [0.0001, 0.001, 0.01, 0.05]

/** Damages a real file, by turns one way and another. @param zzuf whether that program is there */
async function damaged(seed: number, zzuf: boolean, files: Awaited<ReturnType<typeof realFiles>>): Promise<HostileInput> {
  const file = files[seed % files.length]
  if (file === undefined) throw new Error('there are no real files')
  const { door, bytes } = file
  const round = Math.floor(seed / files.length)
  if (zzuf && round % 10 < BY_ZZUF) {
    const ratio = RATIOS[round % RATIOS.length] ?? 0.001
    return {
      name: `${file.file}: ${String(ratio)} of its bits, seed ${String(seed)}`,
      door,
      file: file.file,
      bytes: await zzuffed(bytes, seed, ratio),
    }
  }
  const other = files.filter((one) => one.kind === file.kind).at(round % 2 === 0 ? -1 : 0)?.bytes ?? bytes
  const { how, bytes: bad } = mutated(bytes, other, seed)
  return { name: `${file.file}: ${how}, seed ${String(seed)}`, door, file: file.file, bytes: bad }
}

/**
 * All bad inputs, the same each time: those made by hand, bodies that are strange in one place, and real files that were damaged.
 * @param count of all
 */
export async function allInputs(count: number, zzuf: boolean): Promise<readonly HostileInput[]> {
  const hand = await byHand(null)
  const bodies = Array.from({ length: Math.floor(count / 6) }, (_, n) => strangeBody(n))
  const files = await realFiles()
  const rest: HostileInput[] = []
  for (let seed = 0; seed < count - hand.length - bodies.length; seed += 1) rest.push(await damaged(seed, zzuf, files))
  return [...hand, ...bodies, ...rest].slice(0, count)
}

/** Some for the suite: the worst that were made by hand, and one of every kind of damaged file. */
export async function someInputs(): Promise<readonly HostileInput[]> {
  const worst = [
    'a tree of pages 5,000 deep',
    'unpacks to 400 MB',
    'draws itself',
    'page of a million points',
    'a name that climbs',
    'quoted 20,000 deep',
    'brackets that open',
    'pictures of 6,000 a side',
    'says it is 4 GB',
    'a list of other files',
    '30,000 pixels a side',
  ]
  const hand = await byHand(worst)
  const files = await realFiles()
  return [
    ...worst.flatMap((name) => hand.find((input) => input.name === name) ?? []),
    ...(await Promise.all(
      ['knots.pdf', 'pier.jpg', 'lesson.zip', 'voice.m4a', 'face.webm'].map(
        async (name, n) => await damaged(files.findIndex((file) => file.file === name) + files.length * (3 + n), false, files),
      ),
    )),
    ...Array.from({ length: 4 }, (_, n) => strangeBody(n)),
  ]
}

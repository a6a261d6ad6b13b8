import { feed, start } from '@render/process'

/** Numbers from 0 to 1 that are the same each time (mulberry32). */
export function randomFrom(seed: number): () => number {
  let state = seed >>> 0
  return () => {
    state = (state + 0x6d2b79f5) >>> 0
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state)
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4_294_967_296
  }
}

type Mutation = (bytes: Buffer, random: () => number) => Buffer

const somewhere = (bytes: Buffer, random: () => number): number => Math.floor(random() * bytes.length)

/** Some bytes of a file become others, as many as one in a thousand. */
const flip: Mutation = (bytes, random) => {
  const copy = Buffer.from(bytes)
  const many = Math.max(1, Math.floor(random() * bytes.length * 0.001))
  for (let n = 0; n < many; n += 1) copy[somewhere(copy, random)] = Math.floor(random() * 256)
  return copy
}
const cutOff: Mutation = (bytes, random) => bytes.subarray(0, somewhere(bytes, random))
/** A piece in the middle is missing. */
const gap: Mutation = (bytes, random) => {
  const at = somewhere(bytes, random)
  return Buffer.concat([bytes.subarray(0, at), bytes.subarray(at + Math.floor(random() * 400))])
}
/** A piece comes many times. */
const repeat: Mutation = (bytes, random) => {
  const at = somewhere(bytes, random)
  const piece = bytes.subarray(at, at + 1 + Math.floor(random() * 200))
  return Buffer.concat([bytes.subarray(0, at), ...Array.from({ length: 2 + Math.floor(random() * 40) }, () => piece), bytes.subarray(at)])
}
/** Somewhere stands the largest number there is, where a length may have stood. */
const largest: Mutation = (bytes, random) => {
  const copy = Buffer.from(bytes)
  const at = somewhere(copy, random)
  copy.fill(0xff, at, Math.min(copy.length, at + 4))
  return copy
}
/** A number that is written out becomes another. */
const otherNumber: Mutation = (bytes, random) => {
  const numbers = [...bytes.toString('latin1').matchAll(/\d+/g)]
  const chosen = numbers[Math.floor(random() * numbers.length)]
  if (chosen === undefined) return flip(bytes, random)
  const other = ['0', '-1', '4294967295', '99999999999999999999', '2147483648'][Math.floor(random() * 5)] ?? '0'
  return Buffer.concat([bytes.subarray(0, chosen.index), Buffer.from(other), bytes.subarray(chosen.index + chosen[0].length)])
}
/** A piece of another file of its kind in the middle. */
const splice =
  (other: Buffer): Mutation =>
  (bytes, random) => {
    const [at, from] = [somewhere(bytes, random), somewhere(other, random)]
    return Buffer.concat([bytes.subarray(0, at), other.subarray(from, from + Math.floor(random() * 4000)), bytes.subarray(at)])
  }

/** Damages a real file in one of many ways. @param other of the same kind */
export function mutated(bytes: Buffer, other: Buffer, seed: number): { readonly how: string; readonly bytes: Buffer } {
  const random = randomFrom(seed)
  const ways: readonly (readonly [string, Mutation])[] = [
    ['flipped', flip],
    ['cut off', cutOff],
    ['gap', gap],
    ['repeated', repeat],
    ['largest number', largest],
    ['other number', otherNumber],
    ['spliced', splice(other)],
  ]
  const [how, mutate] = ways[seed % ways.length] ?? ['flipped', flip]
  return { how, bytes: mutate(bytes, random) }
}

/** Damages a file with zzuf of Debian: bits all over it. @param ratio of bits that change */
export async function zzuffed(bytes: Buffer, seed: number, ratio: number): Promise<Buffer> {
  const { child, done } = start('zzuf', ['-s', String(seed), '-r', String(ratio)])
  await feed(child, bytes)
  child.stdin?.end()
  return (await done).stdout
}

import { mkdir, mkdtemp, readFile, readdir, rm, utimes, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { buffer } from 'node:stream/consumers'
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest'
import { startObjects } from '../../tests/harness/object-store'
import type { ObjectService } from '../../tests/harness/object-store'
import { S3Store } from './s3-store'
import type * as Door from '.'
import type { ObjectStore } from '.'

let folder: string
let service: ObjectService

/** A machine of its own: what it has open, and its folder. */
type Machine = typeof Door

/** Has a machine begin with settings. */
async function machine(name: string, settings: Readonly<Record<string, string>> = {}): Promise<Machine> {
  vi.resetModules()
  for (const key of ['AISLE_STORE', 'AISLE_STORE_FORMER', 'AISLE_S3_ENDPOINT', 'AISLE_S3_KEY', 'AISLE_S3_SECRET'])
    vi.stubEnv(key, undefined)
  for (const [key, value] of Object.entries(settings)) vi.stubEnv(key, value)
  vi.stubEnv('AISLE_DATA', join(folder, name))
  vi.stubEnv('DATABASE_URL', 'postgres://nobody@127.0.0.1:1/none')
  return await import('.')
}

const all = async (store: ObjectStore, prefix: string): Promise<readonly string[]> => {
  const names: string[] = []
  for await (const { name } of store.list(prefix)) names.push(name)
  return names.sort()
}

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'aisle-stores-'))
  service = await startObjects()
})
afterAll(async () => {
  vi.unstubAllEnvs()
  // Whoever comes next in this process has settings of its own.
  vi.resetModules()
  await service.close()
  await rm(folder, { recursive: true, force: true })
})

describe.each(['folder', 'object store'])('media are kept, here: %s,', (kind) => {
  let store: ObjectStore
  let own: string

  beforeAll(async () => {
    const { stores } = await machine(kind.replace(' ', '-'), kind === 'folder' ? {} : service.settings)
    store = stores().store
    own = await mkdtemp(join(folder, 'files-'))
  })

  const given = async (bytes: Buffer): Promise<string> => {
    const path = join(own, String(Math.random()))
    await writeFile(path, bytes)
    return path
  }

  it('as they were given, whole and in parts', async () => {
    const bytes = Buffer.from(Array.from({ length: 5000 }, (_, n) => n % 251))
    const kept = await store.put('stretches/one/raw.webm', await given(bytes))
    expect(kept).toMatchObject({ name: 'stretches/one/raw.webm', bytes: 5000 })
    expect(Math.abs(kept.changed - Date.now())).toBeLessThan(600_000)
    expect(await store.find('stretches/one/raw.webm')).toEqual(kept)
    const copy = join(own, 'copy')
    expect(await store.fetch('stretches/one/raw.webm', copy)).toEqual(kept)
    expect(await readFile(copy)).toEqual(bytes)
    const part = await store.read('stretches/one/raw.webm', { start: 100, end: 199 })
    expect(part && (await buffer(part))).toEqual(bytes.subarray(100, 200))
  })

  it('also when they are large', async () => {
    const bytes = Buffer.alloc(40 * 1_048_576, 'aisle')
    await store.put('deliveries/long/film.mp4', await given(bytes))
    const copy = join(own, 'film')
    await store.fetch('deliveries/long/film.mp4', copy)
    expect((await readFile(copy)).equals(bytes)).toBe(true)
  })

  it('under names that are listed by how they begin, until they are removed', async () => {
    for (const name of ['entries/a/film.mp4', 'entries/a/cover.jpg', 'entries/ab/film.mp4', 'exports/a/file'])
      await store.put(name, await given(Buffer.from(name)))
    expect(await all(store, 'entries/a/')).toEqual(['entries/a/cover.jpg', 'entries/a/film.mp4'])
    await store.remove('entries/a/film.mp4')
    await store.remove('entries/a/film.mp4')
    expect(await all(store, 'entries/')).toEqual(['entries/a/cover.jpg', 'entries/ab/film.mp4'])
    expect(await store.find('entries/a/film.mp4')).toBeNull()
    expect(await store.fetch('entries/a/film.mp4', join(own, 'none'))).toBeNull()
    expect(await store.read('entries/a/film.mp4')).toBeNull()
  })

  it('under another name, where the first one is gone', async () => {
    const bytes = Buffer.from('what only wants a name')
    await store.put('segments/staged-c', await given(bytes))
    expect(await store.rename('segments/staged-c', 'deliveries/c/film mark.mp4')).toMatchObject({ bytes: bytes.length })
    const kept = await store.read('deliveries/c/film mark.mp4')
    expect(kept && (await buffer(kept))).toEqual(bytes)
    expect(await store.find('segments/staged-c')).toBeNull()
  })

  it('anew under the same name, and can be written to', async () => {
    await store.put('exports/b/file', await given(Buffer.from('first')))
    await store.put('exports/b/file', await given(Buffer.from('second, and longer')))
    const kept = await store.read('exports/b/file')
    expect(String(kept && (await buffer(kept)))).toBe('second, and longer')
    expect(await store.isWritable()).toBe(true)
  })
})

describe('machines that share an object store', () => {
  it('see what another put there, as it is now, and not what another removed', async () => {
    const one = await machine('one', service.settings)
    const path = one.rawPath('shared')
    await one.writeWhole(path, Buffer.from('as it came'))
    const other = await machine('other', service.settings)
    const there = await other.here(other.rawPath('shared'))
    expect(there).not.toBe(path)
    expect(await readFile(there, 'utf8')).toBe('as it came')
    await vi.waitFor(async () => {
      // A copy is told from another by the second in which its object was put there, and by its length.
      await one.writeWhole(path, Buffer.from('with more of it'))
      expect(await readFile(await other.here(there), 'utf8')).toBe('with more of it')
    })
    expect(await other.sizeOf(there)).toBe(15)
    expect(String(await buffer(await other.readKept(there, { start: 5, end: 8 })))).toBe('more')
    await one.removeTree(one.stretchFolder('shared'))
    expect(await other.sizeOf(there)).toBeNull()
    await expect(readFile(await other.here(there))).rejects.toThrow('ENOENT')
  })

  it('are not given what is not what was put there', async () => {
    const one = await machine('one', service.settings)
    const digest = await one.keepAsset(Buffer.from('a slide as it was drawn'))
    const objects = await readdir(join(service.folder, 'school', 'assets'), { recursive: true })
    const object = objects.find((name) => name.includes(`${digest}._S3rver_object`))
    await writeFile(join(service.folder, 'school', 'assets', object ?? ''), 'a slide as it was DRAWN')
    const other = await machine('other', service.settings)
    await expect(other.assetHere(digest)).rejects.toThrow('did not come as it was kept')
    expect(await other.digestKept(other.assetPath(digest))).not.toBe(digest)
  })

  it('have work of their own beside it, which nobody else sees or takes away', async () => {
    const one = await machine('one', service.settings)
    const path = join(one.uploadFolder(), 'export-1', 'talk.json')
    await mkdir(dirname(path), { recursive: true })
    await writeFile(path, 'half of it')
    expect(await readFile(await one.here(path), 'utf8')).toBe('half of it')
    expect(await one.sizeOf(path)).toBe(10)
    expect(await all(one.stores().store, 'uploads/')).toEqual([])
    await one.removeTree(join(one.uploadFolder(), 'export-1'))
    expect(await one.sizeOf(path)).toBeNull()
    await expect(one.removeTree(folder)).rejects.toThrow('outside the store')
  })

  it('rename also what is larger than a service copies by itself', async () => {
    const place = { kind: 'objects', bucket: 'talks', prefix: 'large/', endpoint: service.settings['AISLE_S3_ENDPOINT'] ?? '' } as const
    const store = new S3Store({ ...place, region: 'nowhere', key: 'S3RVER', secret: 'S3RVER' }, 1000)
    const path = join(folder, 'larger')
    await writeFile(path, Buffer.alloc(1001, 'tide'))
    const kept = await store.put('segments/staged', path)
    expect(await store.rename('segments/staged', 'deliveries/film.mp4')).toMatchObject({ bytes: kept.bytes })
    expect(await all(store, '')).toEqual(['deliveries/film.mp4'])
    // With the digest that it was given, or what comes would not be held against one.
    const copy = join(folder, 'larger-again')
    await store.fetch('deliveries/film.mp4', copy)
    expect(await readFile(copy)).toEqual(await readFile(path))
    await expect(store.rename('segments/staged', 'deliveries/film.mp4')).rejects.toThrow('is not kept')
  })

  it('forget what was left over, and nothing that was put there since', async () => {
    const one = await machine('one', service.settings)
    const [left, kept] = ['00000000-0000-4000-8000-000000000001', '00000000-0000-4000-8000-000000000002']
    for (const id of [left, kept]) await one.writeWhole(one.rawPath(id), Buffer.from(id))
    const lying = await one.lyingSince('stretch', Date.now() + 5000)
    expect(lying).toEqual(expect.arrayContaining([left, kept]))
    expect(await one.lyingSince('stretch', Date.now() - 600_000)).toEqual([])
    expect(await one.leave('stretch', left, Date.now() + 5000)).toBe(true)
    expect(await one.leave('stretch', kept, Date.now() - 600_000)).toBe(false)
    expect(await one.sizeOf(one.rawPath(left))).toBeNull()
    expect(await one.sizeOf(one.rawPath(kept))).toBe(36)
  })

  it('keep copies no longer than they are used, and no more than they may', async () => {
    const one = await machine('small', service.settings)
    const paths = ['a', 'b', 'c'].map((name) => one.rawPath(name))
    for (const path of paths) await one.writeWhole(path, Buffer.alloc(1000))
    const [longAgo, earlier] = [new Date(Date.now() - 2 * 86_400_000), new Date(Date.now() - 2 * 3_600_000)]
    await utimes(paths[0] ?? '', longAgo, longAgo)
    await utimes(paths[1] ?? '', earlier, earlier)
    expect(await one.trimCopies(10_000, Date.now())).toBe(1000)
    expect(await one.trimCopies(1500, Date.now())).toBe(1000)
    expect(await one.trimCopies(0, Date.now())).toBe(0)
    for (const path of paths) expect((await readFile(await one.here(path))).length).toBe(1000)
  })
})

describe('media that were kept elsewhere before', () => {
  it.each([
    ['folder', 'object store'],
    ['object store', 'folder'],
  ])('are taken over while they are used: from %s to %s', async (from, to) => {
    const name = `from-${from.replace(' ', '-')}`
    const objects = { ...service.settings, AISLE_STORE: `s3://talks/${name}` }
    const before = await machine(name, from === 'folder' ? {} : objects)
    const texts = new Map(['x', 'y', 'z'].map((id) => [id, `what ${id} said`]))
    for (const [id, text] of texts) await before.writeWhole(before.rawPath(id), Buffer.from(text))
    await before.writeWhole(join(before.segmentFolder(), 'made'), Buffer.from('is made again'))
    const place = (kind: string): string => (kind === 'folder' ? 'folder' : objects.AISLE_STORE)
    const now = await machine(name, { ...objects, AISLE_STORE: place(to), AISLE_STORE_FORMER: place(from) })
    expect(await now.sizeOf(now.rawPath('x'))).toBe(11)
    expect(await readFile(await now.here(now.rawPath('y')), 'utf8')).toBe('what y said')
    expect(String(await buffer(await now.readKept(now.rawPath('y'))))).toBe('what y said')
    await now.removeTree(now.rawPath('x'))
    expect(await now.takeAllOver(() => undefined)).toEqual({ files: 1, bytes: 11, there: 1 })
    const after = await machine(name, { ...objects, AISLE_STORE: place(to) })
    expect(await after.sizeOf(after.rawPath('x'))).toBeNull()
    for (const id of ['y', 'z']) expect(await readFile(await after.here(after.rawPath(id)), 'utf8')).toBe(texts.get(id))
    expect(await all(after.stores().store, '')).toEqual(['stretches/y/raw.webm', 'stretches/z/raw.webm'])
  })
})

describe('a place that is not there', () => {
  it('is said', async () => {
    const { stores, writeWhole, rawPath } = await machine('alone', { ...service.settings, AISLE_STORE: 's3://nowhere' })
    await mkdir(dirname(rawPath('n')), { recursive: true })
    await expect(writeWhole(rawPath('n'), Buffer.from('lost'))).rejects.toThrow(/bucket/i)
    await expect(stores().store.isWritable()).rejects.toThrow()
  })
})

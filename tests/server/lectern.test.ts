import { randomUUID } from 'node:crypto'
import { readFile } from 'node:fs/promises'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { asId } from '@core/model'
import { SPEAKING_RATE } from '@core/pace'
import type { TakeReport } from '@core/programme'
import { programmeLength, visitsOf } from '@core/programme'
import type { FilmView, TalkView } from '@contracts'
import { feed, run, start } from '@render/process'
import { Client, sentenceOf } from '../harness/client'
import { startProduct, until } from '../harness/product'
import type { Product } from '../harness/product'
import { digestOf, sendTake, toneRecording } from '../harness/recording'
import { knotsTalk } from '../harness/talks'

let product: Product
let client: Client
let talk: string
let ids: readonly string[]
let tone: Buffer

beforeAll(async () => {
  product = await startProduct()
  client = new Client(product.url)
  tone = await toneRecording(4)
  ;({ talk, slides: ids } = await knotsTalk(client))
})
afterAll(async () => {
  await product.stop()
})

/** Puts bytes through ffmpeg. */
async function runWith(bytes: Buffer, args: readonly string[]): Promise<Buffer> {
  const { child, done } = start('ffmpeg', ['-v', 'error', ...args])
  await feed(child, bytes)
  child.stdin?.end()
  return (await done).stdout
}

const film = (): Promise<FilmView> => client.get<FilmView>('GET', `/talks/${talk}/film`)
const [full, replaceAll] = ['full' as const, { kind: 'replaceAll' as const }]
const turn = (at: number, slide: string | undefined) => ({ kind: 'show', at, slide, step: 0 })
const slideAt = (n: number): string => ids[n] ?? ''
const shown = (view: FilmView) => visitsOf(view.programme).map((visit) => [ids.indexOf(visit.slide), visit.length])

describe('a take whose presenter went back', () => {
  it('counts what was kept and what was said instead, and keeps the whole recording', async () => {
    const { take, view } = await sendTake(client, talk, full, replaceAll, [
      { media: tone, length: 3900, slide: slideAt(0), cues: [turn(2000, ids[1])], kept: 2000 },
      { media: tone, length: 3000, slide: slideAt(1) },
    ])
    expect(shown(await film())).toEqual([
      [0, 2000],
      [1, 3000],
    ])
    expect(view.takes.find((one) => one.id === take)?.length).toBe(5000)
    // In the order in which they are played, wherever their rows lie by now.
    await product.db
      .updateTable('stretch')
      .set((build) => ({ camera_lost_ms: build.ref('camera_lost_ms') }))
      .where('take', '=', take)
      .where('number', '=', 0)
      .execute()
    expect((await film()).stretches.map((stretch) => [stretch.length, stretch.kept])).toEqual([
      [3900, 2000],
      [3000, 3000],
    ])
  })

  it('cannot be gone back into once it is finished', async () => {
    const { programme, stretches } = await film()
    await client.get('PUT', `/stretches/${stretches[0]?.id ?? ''}/kept`, { kept: 100 })
    expect((await film()).programme).toEqual(programme)
    expect((await film()).stretches[0]?.kept).toBe(2000)
  })
})

describe('a retake', () => {
  it('takes the place of one visit alone, and discarding it brings the old one back', async () => {
    await sendTake(client, talk, full, replaceAll, [
      { media: tone, length: 3900, slide: slideAt(0), cues: [turn(1000, ids[1]), turn(2500, ids[2])] },
    ])
    const before = await film()
    const visit = visitsOf(before.programme)[1]?.id ?? asId('')
    const { take } = await sendTake(client, talk, 'retake', { kind: 'retake', visit }, [{ media: tone, length: 3300, slide: slideAt(1) }])
    expect(shown(await film())).toEqual([
      [0, 1000],
      [1, 3300],
      [2, 1400],
    ])
    await client.get('DELETE', `/takes/${take}`)
    expect((await film()).programme.pieces).toEqual(before.programme.pieces)
  })
})

describe('timings without a voice', () => {
  it('are as long as they were held, need no recording, and are dubbed afterwards', async () => {
    await sendTake(client, talk, full, replaceAll, [{ media: null, length: 3500, slide: slideAt(0), cues: [turn(1500, ids[1])] }])
    const silent = await film()
    expect(shown(silent)).toEqual([
      [0, 1500],
      [1, 2000],
    ])
    expect(silent.programme.pieces.every((piece) => piece.kind === 'recorded' && piece.voice === null && piece.camera === null)).toBe(true)

    const { take } = await sendTake(client, talk, 'dub', { kind: 'dub', at: 1000 }, [{ media: tone, length: 2500, slide: slideAt(0) }])
    const dubbed = await film()
    expect(shown(dubbed)).toEqual(shown(silent))
    expect(
      dubbed.programme.pieces.map((piece) =>
        piece.kind === 'recorded' && piece.voice !== null ? [piece.voice.from, piece.voice.to] : null,
      ),
    ).toEqual([null, [0, 500], [500, 2500]])
    await client.get('DELETE', `/takes/${take}`)
    expect((await film()).programme.pieces).toEqual(silent.programme.pieces)
  })

  it('survive a crash until the last thing that happened in them', async () => {
    const [take, stretch] = [randomUUID(), randomUUID()]
    await client.get('PUT', `/talks/${talk}/takes/${take}`, { kind: 'full', intent: replaceAll })
    await client.get('PUT', `/stretches/${stretch}`, {
      take,
      number: 0,
      camera: false,
      voice: false,
      mime: 'audio/webm;codecs=opus',
      opening: { slide: ids[0], step: 0, blank: false, inset: true, ink: [] },
    })
    await client.get('PUT', `/stretches/${stretch}/cues`, { first: 0, cues: [turn(1500, ids[1]), turn(4200, ids[2])] })
    await client.get('POST', `/takes/${take}/recover`)
    await until(
      'the take',
      async () => (await client.get<TalkView>('GET', `/talks/${talk}`)).takes.find((one) => one.id === take)?.state === 'closed',
    )
    expect(programmeLength((await film()).programme)).toBe(4200)
  })
})

describe('what you have after a take', () => {
  it('is measured on what was recorded', async () => {
    const pause = await toneRecording(4, 7)
    const { take } = await sendTake(client, talk, full, replaceAll, [
      { media: pause, length: 10_900, slide: slideAt(0), cues: [{ kind: 'stumble', at: 500 }] },
      {
        media: tone,
        length: 3900,
        slide: slideAt(0),
        cues: [
          { kind: 'mute', at: 1000, on: true },
          { kind: 'mute', at: 2000, on: false },
        ],
      },
    ])
    const report = await client.get<TakeReport>('GET', `/takes/${take}/report`)
    expect(report).toMatchObject({ length: 14_800, muted: [{ at: 11_900, length: 1000 }], stumbles: 1, cameraLost: 0, shown: [ids[0]] })
    expect(report.silences.length).toBe(1)
    expect(Math.abs((report.silences[0]?.at ?? 0) - 2000)).toBeLessThan(150)
    expect(Math.abs((report.silences[0]?.length ?? 0) - 7000)).toBeLessThan(200)
    expect(report.loudness).toBeLessThan(-5)
    expect(report.loudness).toBeGreaterThan(-25)
  })
})

describe("a presenter's own rate", () => {
  it('is learnt from what was said of the notes in rehearsals and takes, and forgotten with them', async () => {
    const rate = async (): Promise<number> => (await client.get<TalkView>('GET', `/talks/${talk}`)).rate
    const { revision } = await client.get<TalkView>('GET', `/talks/${talk}`)
    const notes = `${Array.from({ length: 60 }, (_, n) => `word${String(n)}`).join(' ')}.`
    await client.get('POST', `/talks/${talk}/deck`, { revision, edit: { kind: 'set', slides: [ids[0]], fields: { notes } } })
    expect(await rate()).toBe(SPEAKING_RATE)
    const run = randomUUID()
    // Sixty words in twenty seconds of speech: 180 a minute, though the slide was up for a minute.
    const body = { started: new Date().toISOString(), visits: [{ slide: ids[0], length: 60_000, spoken: 20_000 }] }
    await client.get('PUT', `/talks/${talk}/rehearsals/${run}`, body)
    await client.get('PUT', `/talks/${talk}/rehearsals/${run}`, body)
    const learnt = await rate()
    expect(learnt).toBeGreaterThan(SPEAKING_RATE + 5)
    expect(learnt).toBeLessThan(180)
    // Other talks of the same person plan by it too.
    const other = (await client.get<{ id: string }>('POST', '/talks', { name: 'Weather', limit: null })).id
    expect((await client.get<TalkView>('GET', `/talks/${other}`)).rate).toBe(learnt)
    await client.get('DELETE', `/talks/${talk}/rehearsals/${run}`)
    expect(await rate()).toBe(SPEAKING_RATE)
  })
})

describe('one recording a talk at a time', () => {
  it('is told where the talk is being recorded, until that take ends', async () => {
    const other = (await client.get<{ id: string }>('POST', '/talks', { name: 'Weather', limit: null })).id
    const open = (take: string, browser: string, name: string) =>
      client.ask('PUT', `/talks/${other}/takes/${take}`, { kind: 'full', intent: { kind: 'append' }, place: { browser, name } })
    const [laptop, desk, take] = [randomUUID(), randomUUID(), randomUUID()]
    expect((await open(take, laptop, 'Chromium on Linux')).status).toBe(200)
    expect((await open(take, laptop, 'Chromium on Linux')).status).toBe(200)
    const second = await open(randomUUID(), desk, 'Firefox on Windows')
    expect([second.status, sentenceOf(second.body)]).toEqual([409, expect.stringMatching(/being recorded on Chromium on Linux/)])
    // A take that broke off in the same browser stands in nobody's way there.
    expect((await open(randomUUID(), laptop, 'Chromium on Linux')).status).toBe(200)
    await product.db
      .updateTable('take')
      .set({ seen: new Date(Date.now() - 60_000) })
      .where('talk', '=', other)
      .execute()
    expect((await open(randomUUID(), desk, 'Firefox on Windows')).status).toBe(200)
  })
})

describe('sound in time', () => {
  it('is put where its print says it was captured, whatever the recorder said, and is told to be measured', async () => {
    // A voice whose every moment can be told from any other: tones that wander.
    const { stdout: wandering } = await run('ffmpeg', [
      '-v',
      'error',
      '-f',
      'lavfi',
      '-i',
      'aevalsrc=0.4*sin(2*PI*(200*t+30*sin(3*t)))*(0.6+0.4*sin(5*t))+0.2*sin(2*PI*900*t+4*sin(11*t)):s=48000:d=6',
      '-f',
      's16le',
      'pipe:1',
    ])
    const media = await runWith(wandering, [
      '-f',
      's16le',
      '-ar',
      '48000',
      '-ac',
      '1',
      '-i',
      'pipe:0',
      '-c:a',
      'libopus',
      '-b:a',
      '96k',
      '-f',
      'webm',
      'pipe:1',
    ])
    const [take, stretch] = [randomUUID(), randomUUID()]
    await client.get('PUT', `/talks/${talk}/takes/${take}`, { kind: 'full', intent: replaceAll })
    await client.get('PUT', `/stretches/${stretch}`, {
      take,
      number: 0,
      camera: false,
      voice: true,
      mime: 'audio/webm;codecs=opus',
      opening: { slide: ids[0], step: 0, blank: false, inset: true, ink: [] },
    })
    await client.ask('PUT', `/stretches/${stretch}/chunks/0`, new Uint8Array(media), {
      'x-aisle-chunks': `${String(media.length)}:${digestOf(media)}`,
      'content-type': 'application/octet-stream',
    })
    // What stands at 1.2 s in the file was captured 1 s after the stretch began: the sound lies 200 ms late in it.
    const print = wandering.subarray(115_200, 307_200)
    await client.ask('PUT', `/stretches/${stretch}/prints/0?at=1000&rate=48000`, new Uint8Array(print), {
      'content-type': 'application/octet-stream',
    })
    expect((await client.ask('PUT', `/stretches/${stretch}/prints/7?at=0&rate=48000`, new Uint8Array(4))).status).toBe(400)
    await client.get('POST', `/stretches/${stretch}/close`, { chunks: 1, cues: 0, length: 5000 })
    await client.get('POST', `/takes/${take}/finish`)
    await until(
      'the take',
      async () => (await client.get<TalkView>('GET', `/talks/${talk}`)).takes.find((one) => one.id === take)?.state === 'closed',
    )
    expect((await client.get<TakeReport>('GET', `/takes/${take}/report`)).timing).toBe('measured')
    const voice = await readFile(product.storedAt(`stretches/${stretch}/voice.pcm`))
    // The stretch's third second holds what the file has from 2.2 s on.
    const at = (bytes: Buffer, sample: number): number => bytes.readInt16LE(sample * 2)
    let [dot, own, other] = [0, 0, 0]
    for (let n = 0; n < 9600; n += 1) {
      const [a, b] = [at(voice, 96_000 + n), at(wandering, 105_600 + n)]
      dot += a * b
      own += a * a
      other += b * b
    }
    expect(dot / Math.sqrt(own * other)).toBeGreaterThan(0.95)
    // Made ready once more, as when more of it comes late, it lies where it lay.
    await product.db.updateTable('stretch').set({ state: 'closing' }).where('id', '=', stretch).execute()
    await product.db.updateTable('take').set({ state: 'open' }).where('id', '=', take).execute()
    await client.get('POST', `/takes/${take}/finish`)
    await until(
      'the take once more',
      async () => (await client.get<TalkView>('GET', `/talks/${talk}`)).takes.find((one) => one.id === take)?.state === 'closed',
    )
    expect((await readFile(product.storedAt(`stretches/${stretch}/voice.pcm`))).equals(voice)).toBe(true)
  })

  it('is told to be approximate without a print', async () => {
    const { take } = await sendTake(client, talk, full, replaceAll, [{ media: tone, length: 3000, slide: slideAt(0) }])
    expect((await client.get<TakeReport>('GET', `/takes/${take}/report`)).timing).toBe('approximate')
  })
})

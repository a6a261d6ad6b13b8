import { createHash, randomUUID } from 'node:crypto'
import type { Intent, Ms, TakeKind } from '@core/model'
import type { TalkView } from '@contracts'
import { run } from '@render/process'
import type { Client } from './client'
import { until } from './run-product'

export const digestOf = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex')

/** A recording of a tone, as a browser's recorder makes one. @param silence in seconds, between two halves of it */
export async function toneRecording(seconds: number, silence = 0): Promise<Buffer> {
  const half = `sine=frequency=440:duration=${String(seconds / 2)},volume=8dB`
  const { stdout } = await run('ffmpeg', [
    '-v',
    'error',
    '-f',
    'lavfi',
    '-i',
    half,
    '-f',
    'lavfi',
    '-i',
    `anullsrc=r=44100:cl=mono:d=${String(Math.max(0.01, silence))}`,
    '-f',
    'lavfi',
    '-i',
    half,
    '-filter_complex',
    '[0][1][2]concat=n=3:v=0:a=1',
    '-c:a',
    'libopus',
    '-f',
    'webm',
    'pipe:1',
  ])
  return stdout
}

/**
 * A recording of words, here tones in the noise of a still room, with pauses after them.
 * @param parts in seconds; a cough is a burst of noise as long as the word
 */
export async function spokenRecording(
  parts: readonly { readonly word: number; readonly pause: number; readonly cough?: boolean }[],
): Promise<Buffer> {
  const whole = parts.reduce((sum, part) => sum + part.word + part.pause, 0)
  let at = 0
  const spans = parts.map((part) => {
    const from = at
    at += part.word + part.pause
    return { from, to: from + part.word, cough: part.cough === true }
  })
  const during = (which: boolean): string =>
    spans
      .filter((span) => span.cough === which)
      .map((span) => `between(t,${String(span.from)},${String(span.to)})`)
      .join('+') || '0'
  const { stdout } = await run('ffmpeg', [
    '-v',
    'error',
    '-f',
    'lavfi',
    '-i',
    `aevalsrc='0.3*sin(2*PI*220*t)*(${during(false)})+0.5*(random(0)*2-1)*(${during(true)}` +
      `)+0.002*(random(1)*2-1)':d=${String(whole)}:s=48000`,
    '-c:a',
    'libopus',
    '-b:a',
    '96k',
    '-f',
    'webm',
    'pipe:1',
  ])
  return stdout
}

/**
 * A recording of a tone with a camera that sees one colour, as a browser's recorder makes one.
 * @param colour as ffmpeg names it
 * @param grain of its pictures, 0 to 100: what makes them hard to store
 */
export async function facedRecording(seconds: number, colour: string, grain = 0): Promise<Buffer> {
  const { stdout } = await run('ffmpeg', [
    '-v',
    'error',
    '-f',
    'lavfi',
    '-i',
    `color=c=${colour}:s=640x360:r=30:d=${String(seconds)}${grain > 0 ? `,noise=alls=${String(grain)}:allf=t` : ''}`,
    '-f',
    'lavfi',
    '-i',
    `sine=frequency=440:duration=${String(seconds)},volume=8dB`,
    '-c:v',
    'libvpx',
    '-b:v',
    '600k',
    '-deadline',
    'realtime',
    '-cpu-used',
    '8',
    '-c:a',
    'libopus',
    '-f',
    'webm',
    'pipe:1',
  ])
  return stdout
}

/** The same with a camera that sees red, and blue from a time on. @param turn in seconds */
export async function turningFace(seconds: number, turn: number): Promise<Buffer> {
  const { stdout } = await run('ffmpeg', [
    '-v',
    'error',
    '-f',
    'lavfi',
    '-i',
    `color=c=red:s=640x360:r=30:d=${String(turn)}`,
    '-f',
    'lavfi',
    '-i',
    `color=c=blue:s=640x360:r=30:d=${String(seconds - turn)}`,
    '-f',
    'lavfi',
    '-i',
    `aevalsrc=0.3*sin(2*PI*220*t)*lt(t\\,${String(turn)})+0.3*sin(2*PI*1760*t)*gte(t\\,${String(turn)}):d=${String(seconds)}:s=48000`,
    '-filter_complex',
    '[0][1]concat=n=2:v=1:a=0[v]',
    '-map',
    '[v]',
    '-map',
    '2:a',
    '-c:v',
    'libvpx',
    '-b:v',
    '600k',
    '-deadline',
    'realtime',
    '-cpu-used',
    '8',
    '-c:a',
    'libopus',
    '-f',
    'webm',
    'pipe:1',
  ])
  return stdout
}

export interface SentStretch {
  /** Whether its media holds pictures too. */
  readonly camera?: boolean
  /** None: timings and ink alone. */
  readonly media: Buffer | null
  readonly length: Ms
  readonly slide: string
  readonly cues?: readonly object[]
  /** How much of it counts; all when left out. */
  readonly kept?: Ms
}

/** Sends a take as the Lectern does, and waits until it is in the programme. @returns the talk then, and the take's id */
export async function sendTake(
  client: Client,
  talk: string,
  kind: TakeKind,
  intent: Intent,
  stretches: readonly SentStretch[],
): Promise<{ readonly take: string; readonly view: TalkView }> {
  const take = randomUUID()
  await client.get('PUT', `/talks/${talk}/takes/${take}`, { kind, intent })
  for (const [number, { media, length, slide, cues = [], kept, camera = false }] of stretches.entries()) {
    const stretch = randomUUID()
    await client.get('PUT', `/stretches/${stretch}`, {
      take,
      number,
      camera,
      voice: media !== null,
      mime: camera ? 'video/webm;codecs=vp8,opus' : 'audio/webm;codecs=opus',
      opening: { slide, step: 0, blank: false, inset: true, ink: [] },
    })
    if (media !== null) {
      await client.ask('PUT', `/stretches/${stretch}/chunks/0`, new Uint8Array(media), {
        'x-aisle-chunks': `${String(media.length)}:${digestOf(media)}`,
        'content-type': 'application/octet-stream',
      })
    }
    if (cues.length > 0) await client.get('PUT', `/stretches/${stretch}/cues`, { first: 0, cues })
    await client.get('POST', `/stretches/${stretch}/close`, { chunks: media === null ? 0 : 1, cues: cues.length, length })
    if (kept !== undefined) await client.get('PUT', `/stretches/${stretch}/kept`, { kept })
  }
  await client.get('POST', `/takes/${take}/finish`)
  const view = await until('the take', async () => {
    const now = await client.get<TalkView>('GET', `/talks/${talk}`)
    return now.takes.find((one) => one.id === take)?.state === 'closed' && now
  })
  return { take, view }
}

/** A take that is being recorded: a voice alone, in one stretch. */
export interface OpenTake {
  readonly take: string
  readonly stretch: string
  /** Sends one of its chunks. @returns the answer's status */
  readonly send: (to: Client, n: number, bytes: Uint8Array) => Promise<number>
}

/** Begins a take at the end of a talk. */
export async function openTake(client: Client, talk: string, slide: string): Promise<OpenTake> {
  const [take, stretch] = [randomUUID(), randomUUID()]
  await client.get('PUT', `/talks/${talk}/takes/${take}`, { kind: 'full', intent: { kind: 'append' } })
  await client.get('PUT', `/stretches/${stretch}`, {
    take,
    number: 0,
    camera: false,
    voice: true,
    mime: 'audio/webm;codecs=opus',
    opening: { slide, step: 0, blank: false, inset: true, ink: [] },
  })
  const send = async (to: Client, n: number, bytes: Uint8Array): Promise<number> => {
    const { status } = await to.ask('PUT', `/stretches/${stretch}/chunks/${String(n)}`, new Uint8Array(bytes), {
      'x-aisle-chunks': `${String(bytes.length)}:${digestOf(Buffer.from(bytes))}`,
      'content-type': 'application/octet-stream',
    })
    return status
  }
  return { take, stretch, send }
}

import { randomUUID } from 'node:crypto'
import { isDeepStrictEqual } from 'node:util'
import type { FilmView, TalkView } from '@contracts'
import type { Client } from '../harness/client'
import { sentenceOf } from '../harness/client'
import { fileForm } from '../harness/decks'
import { digestOf, sendTake, toneRecording } from '../harness/recording'
import { until } from '../harness/run-product'
import { knotsTalk } from '../harness/talks'
import type { HostileInput } from './input'

/** What became of an input: taken in, or refused with a sentence. @throws Error when it is neither */
export interface Fed {
  readonly taken: boolean
  readonly sentence: string
  /** ms until it had ended. */
  readonly took: number
}

/** An answer is waited for no longer, and an import, a voice or a take no longer, in ms. */
const ANSWER = 20_000
const END = 180_000

/** What a talk held at first. */
interface Before {
  readonly slides: readonly unknown[]
  readonly pieces: readonly unknown[]
}

/** A talk with a deck and a take, into which bad inputs are fed. */
export class Victim {
  readonly #client: Client
  readonly #talk: string
  readonly #slide: string
  readonly #before: Before

  private constructor(client: Client, talk: string, slide: string, before: Before) {
    this.#client = client
    this.#talk = talk
    this.#slide = slide
    this.#before = before
  }

  static async of(client: Client): Promise<Victim> {
    const { talk, slides } = await knotsTalk(client, 'Kept well')
    await sendTake(client, talk, 'full', { kind: 'replaceAll' }, [{ media: await toneRecording(2), length: 1900, slide: slides[0] ?? '' }])
    const view = await client.get<TalkView>('GET', `/talks/${talk}`)
    const { programme } = await client.get<FilmView>('GET', `/talks/${talk}/film`)
    return new Victim(client, talk, slides[0] ?? '', { slides: view.slides, pieces: programme.pieces })
  }

  async #ask(
    method: string,
    path: string,
    body?: unknown,
    headers?: Record<string, string>,
  ): Promise<{ readonly status: number; readonly body: unknown }> {
    const late = new Promise<never>((_, reject) => {
      setTimeout(() => {
        reject(new Error(`no answer within ${String(ANSWER)} ms`))
      }, ANSWER)
    })
    const answer = await Promise.race([this.#client.ask(method, path, body, headers), late])
    if (answer.status >= 500 && answer.status !== 503)
      throw new Error(`${method} ${path}: ${String(answer.status)} ${JSON.stringify(answer.body).slice(0, 200)}`)
    if (answer.status >= 400 && sentenceOf(answer.body) === '')
      throw new Error(`${method} ${path}: ${String(answer.status)} without a sentence`)
    return answer
  }

  readonly #view = (): Promise<TalkView> => this.#client.get<TalkView>('GET', `/talks/${this.#talk}`)

  async #takeEnded(id: string): Promise<Omit<Fed, 'took'>> {
    const take = await until(
      'the take',
      async () => (await this.#view()).takes.find((one) => one.id === id && ['closed', 'failed'].includes(one.state)),
      END,
    )
    if (take.state === 'failed' && (take.sentence ?? '') === '') throw new Error('a take failed without a sentence')
    if (take.state === 'closed') await this.#client.ask('DELETE', `/takes/${id}`)
    return { taken: take.state === 'closed', sentence: take.sentence ?? '' }
  }

  async #send({ door, file, bytes }: HostileInput): Promise<Omit<Fed, 'took'>> {
    const refused = (answer: { readonly body: unknown }): Omit<Fed, 'took'> => ({ taken: false, sentence: sentenceOf(answer.body) })
    const json = (): Uint8Array => new TextEncoder().encode(bytes.toString().replaceAll('SLIDE', this.#slide))
    const asJson = { 'content-type': 'application/json' }
    switch (door) {
      case 'deck': {
        const answer = await this.#ask('POST', `/talks/${this.#talk}/imports`, fileForm(file, bytes))
        if (answer.status >= 400) return refused(answer)
        const { id } = answer.body as { readonly id: string }
        const ended = await until(
          'the deck',
          async () => (await this.#view()).imports.find((one) => one.id === id && ['done', 'failed'].includes(one.state)),
          END,
        )
        if (ended.state === 'failed' && (ended.sentence ?? '') === '') throw new Error('a deck failed without a sentence')
        if (/our side/.test(ended.sentence ?? '')) throw new Error(`a fault of ours: ${ended.sentence ?? ''}`)
        return { taken: ended.state === 'done', sentence: ended.sentence ?? '' }
      }
      case 'picture': {
        const answer = await this.#ask('POST', `/talks/${this.#talk}/pictures`, fileForm(file, bytes))
        return answer.status >= 400 ? refused(answer) : { taken: true, sentence: '' }
      }
      case 'sound': {
        const { programme } = await this.#client.get<FilmView>('GET', `/talks/${this.#talk}/film`)
        const answer = await this.#ask(
          'POST',
          `/talks/${this.#talk}/voices?visit=${programme.pieces[0]?.visit ?? ''}&browser=${randomUUID()}&name=here`,
          fileForm(file, bytes),
        )
        return answer.status >= 400 ? refused(answer) : await this.#takeEnded((answer.body as { readonly take: string }).take)
      }
      case 'recording': {
        const [take, stretch] = [randomUUID(), randomUUID()]
        await this.#ask('PUT', `/talks/${this.#talk}/takes/${take}`, { kind: 'full', intent: { kind: 'append' } })
        await this.#ask('PUT', `/stretches/${stretch}`, {
          take,
          number: 0,
          camera: true,
          voice: true,
          mime: 'video/webm',
          opening: { slide: this.#slide, step: 0, blank: false, inset: true, ink: [] },
        })
        await this.#ask('PUT', `/stretches/${stretch}/chunks/0`, new Uint8Array(bytes), {
          'x-aisle-chunks': `${String(bytes.length)}:${digestOf(bytes)}`,
          'content-type': 'application/octet-stream',
        })
        await this.#ask('POST', `/stretches/${stretch}/close`, { chunks: 1, cues: 0, length: 1500 })
        await this.#ask('POST', `/takes/${take}/finish`)
        return await this.#takeEnded(take)
      }
      case 'edit':
      case 'programme':
      case 'recipe': {
        const [method, path] = door === 'recipe' ? ['PUT', 'recipe'] : ['POST', door === 'edit' ? 'deck' : 'programme']
        const answer = await this.#ask(method, `/talks/${this.#talk}/${path}`, json(), asJson)
        return answer.status >= 400 ? refused(answer) : { taken: true, sentence: '' }
      }
      case 'cues': {
        const [take, stretch] = [randomUUID(), randomUUID()]
        await this.#ask('PUT', `/talks/${this.#talk}/takes/${take}`, { kind: 'full', intent: { kind: 'append' } })
        await this.#ask('PUT', `/stretches/${stretch}`, {
          take,
          number: 0,
          camera: false,
          voice: false,
          mime: 'video/webm',
          opening: { slide: this.#slide, step: 0, blank: false, inset: true, ink: [] },
        })
        const answer = await this.#ask('PUT', `/stretches/${stretch}/cues`, json(), asJson)
        await this.#client.ask('DELETE', `/takes/${take}`)
        return answer.status >= 400 ? refused(answer) : { taken: true, sentence: '' }
      }
    }
  }

  /** Sends an input and waits for its end. @throws Error when it was neither taken nor refused in words, or too late */
  async feed(input: HostileInput): Promise<Fed> {
    const began = performance.now()
    const ended = await this.#send(input)
    return { ...ended, took: Math.round(performance.now() - began) }
  }

  /**
   * @throws Error when anything that was there is not as it was; what came after it may be.
   * @param edited whether edits were let through
   */
  async lookUnharmed(edited: boolean): Promise<void> {
    const { slides } = await this.#view()
    const { programme } = await this.#client.get<FilmView>('GET', `/talks/${this.#talk}/film`)
    if (edited) return
    if (!isDeepStrictEqual(slides.slice(0, this.#before.slides.length), this.#before.slides))
      throw new Error('the slides are not as they were')
    if (!isDeepStrictEqual(programme.pieces, this.#before.pieces)) throw new Error('the programme is not as it was')
  }
}

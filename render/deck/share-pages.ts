import type { Worker } from 'node:worker_threads'
import { openPdf } from '@render/pdf'
import type { PdfFile } from '@render/pdf'
import { readGroup } from './read-pages'
import type { PagesOrder, ReadGroup } from './read-pages'

/** What a thread that helps with a PDF is given. */
export interface HelperOrder extends PagesOrder {
  readonly path: string
  readonly groups: readonly (readonly number[])[]
  /** One Int32: the next slide that nobody has begun, counted by all threads together. */
  readonly next: SharedArrayBuffer
}

/** What it answers: a slide that was read. */
export interface HelperMessage {
  readonly at: number
  readonly group: ReadGroup
}

/** Starts a thread that does `help` with an order. */
export type StartHelper = (order: HelperOrder) => Worker

/** A promise that is settled from outside, and may be refused before anybody waits for it. */
class Slot<Value> {
  readonly promise: Promise<Value>
  resolve: (value: Value) => void = () => undefined
  reject: (error: unknown) => void = () => undefined

  constructor() {
    this.promise = new Promise((resolve, reject) => {
      this.resolve = resolve
      this.reject = reject
    })
    this.promise.catch(() => undefined)
  }
}

/** Fewer slides than this are read sooner than a thread has started. */
const LEAST_SLIDES = 8

/**
 * Reads slides that nobody else has begun, until there are none.
 * @param found is given each; the next is drawn while the one before is still being stored
 */
async function readShare(pdf: PdfFile, order: Omit<HelperOrder, 'path'>, found: (message: HelperMessage) => void): Promise<void> {
  const next = new Int32Array(order.next)
  let storing: Promise<void> = Promise.resolve()
  for (let at = Atomics.add(next, 0, 1); at < order.groups.length; at = Atomics.add(next, 0, 1)) {
    const slide = at
    const reading = readGroup(pdf, order.groups[slide] ?? [], order)
    await storing
    storing = reading.then((group) => {
      found({ at: slide, group })
    })
  }
  await storing
}

/** What a helping thread does. @param answer sends a slide to whoever started it */
export async function help(order: HelperOrder, answer: (message: HelperMessage, moved: readonly ArrayBuffer[]) => void): Promise<void> {
  const pdf = await openPdf(order.path)
  await readShare(pdf, order, (message) => {
    answer(
      message,
      message.group.pages.map((page) => page.image.pixels.buffer as ArrayBuffer),
    )
  })
}

/**
 * Reads all slides of a PDF, in as many threads as are wanted beside this one.
 * @param groups for each slide the pages that are its steps, counted from 1
 * @param helpers how many threads may help; none do for a short deck
 * @returns the slides in order, each as soon as it is there
 */
export function sharePages(
  pdf: PdfFile,
  path: string,
  groups: readonly (readonly number[])[],
  order: PagesOrder,
  helpers: number,
  start: StartHelper,
): readonly Promise<ReadGroup>[] {
  const shared: HelperOrder = { ...order, path, groups, next: new SharedArrayBuffer(Int32Array.BYTES_PER_ELEMENT) }
  const threads: Worker[] = []
  const slots = groups.map(() => new Slot<ReadGroup>())
  const found = ({ at, group }: HelperMessage): void => {
    slots[at]?.resolve(group)
  }
  const failed = (error: unknown): void => {
    slots.forEach((slot) => {
      slot.reject(error)
    })
    threads.forEach((thread) => {
      void thread.terminate()
    })
  }
  for (let n = 0; n < (groups.length < LEAST_SLIDES ? 0 : helpers); n += 1) {
    const thread = start(shared)
    thread.on('message', found)
    thread.once('error', failed)
    threads.push(thread)
  }
  readShare(pdf, shared, found).catch(failed)
  return slots.map((slot) => slot.promise)
}

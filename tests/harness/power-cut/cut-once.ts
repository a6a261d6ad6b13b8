import { sleep } from '../timed-take'
import type { Product } from '../run-product'
import type { CutDisk } from './cut'
import type { Presenter, Stage } from './presenter'

/** Programs that the product started and that go with it when its power does. */
async function othersGone(product: Product): Promise<void> {
  await Promise.all([product.kill('worker'), product.kill('server')])
  // What it started ends with it.
  await sleep(300)
}

/** What one power cut did. */
export interface OneCut {
  readonly stage: Stage
  /** What the disk lost that had not been called safe. */
  readonly gone: readonly string[]
  /** What is not there although it was called safe, or did not come right afterwards; null: nothing. */
  readonly wrong: string | null
}

/**
 * Cuts the power at a moment, starts again, looks at what had been called safe, and goes on to the end.
 * @param when resolves at that moment
 * @param also goes with the power
 */
export async function cutOnce(
  product: Product,
  disk: CutDisk,
  presenter: Presenter,
  when: Promise<unknown>,
  also: () => void = () => undefined,
): Promise<OneCut> {
  const going = presenter.goOn().catch(() => undefined)
  await Promise.race([when, going])
  await othersGone(product)
  also()
  // What it has heard by now is what counts.
  await going
  const { stage } = presenter
  const gone = disk.cut()
  try {
    await product.start('server')
    await presenter.lookAtWhatWasSafe()
    await product.start('worker')
    await presenter.goOn()
    await presenter.lookAtAll()
    return { stage, gone, wrong: null }
  } catch (error) {
    return { stage, gone, wrong: error instanceof Error ? error.message : String(error) }
  }
}

import { afterAll, beforeAll } from 'vitest'
import { startBrowser } from './browser'
import type { TestBrowser } from './browser'
import { Client } from './client'
import { startProduct } from './product'
import type { Product } from './product'

/** What a browser test works with; there once its tests run. */
export interface Stand {
  readonly product: Product
  readonly browser: TestBrowser
  /** Asks the server directly, beside the pages. */
  readonly client: Client
}

/** Sets up a product and a browser before the tests of a file, and ends both after them. @param switches for the browser */
export function inBrowser(switches: readonly string[] = []): Stand {
  const stand: { product?: Product, browser?: TestBrowser, client?: Client } = {}
  const there = <Value>(value: Value | undefined): Value => {
    if (value === undefined) throw new Error('the stand is not set up yet')
    return value
  }
  beforeAll(async () => {
    stand.product = await startProduct()
    stand.browser = await startBrowser(switches)
    stand.client = new Client(stand.product.url)
  })
  afterAll(async () => {
    await stand.browser?.close()
    await stand.product?.stop()
  })
  return {
    get product() { return there(stand.product) },
    get browser() { return there(stand.browser) },
    get client() { return there(stand.client) },
  }
}

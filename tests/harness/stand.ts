import { afterAll, afterEach, beforeAll } from 'vitest'
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

/** Whoever presents in tests begins at once: a countdown before every take would be waited for. */
async function withoutCountdown(browser: TestBrowser, client: Client): Promise<void> {
  const { person } = await client.get<{ person: { id: string } | null }>('GET', '/session')
  const key = JSON.stringify(`aisle-habits:${person?.id ?? 'here'}`)
  await browser.context.addInitScript(`if (localStorage.getItem(${key}) === null) localStorage.setItem(${key}, '{"countdown":0}')`)
}

/** Another person's browser, for the tests of a file. */
export function otherBrowser(): { readonly browser: TestBrowser } {
  const other: { browser?: TestBrowser } = {}
  beforeAll(async () => {
    other.browser = await startBrowser()
  })
  afterAll(async () => {
    await other.browser?.close()
  })
  return {
    get browser() {
      if (other.browser === undefined) throw new Error('the other browser is not set up yet')
      return other.browser
    },
  }
}

/** Sets up a product and a browser before the tests of a file, and ends both after them. @param switches for the browser */
export function inBrowser(switches: readonly string[] = []): Stand {
  const stand: { product?: Product; browser?: TestBrowser; client?: Client } = {}
  const there = <Value>(value: Value | undefined): Value => {
    if (value === undefined) throw new Error('the stand is not set up yet')
    return value
  }
  beforeAll(async () => {
    stand.product = await startProduct()
    stand.browser = await startBrowser(switches)
    stand.client = new Client(stand.product.url)
    await withoutCountdown(stand.browser, stand.client)
  })
  afterEach(async () => {
    await stand.browser?.closePages()
  })
  afterAll(async () => {
    await stand.browser?.close()
    await stand.product?.stop()
  })
  return {
    get product() {
      return there(stand.product)
    },
    get browser() {
      return there(stand.browser)
    },
    get client() {
      return there(stand.client)
    },
  }
}

import { inject } from 'vitest'
import { runProduct } from './run-product'
import type { Product } from './run-product'

export { freePort, until } from './run-product'
export type { Product } from './run-product'

/** Starts the built product on the tests' own database server. */
export const startProduct = (settings: Readonly<Record<string, string>> = {}): Promise<Product> => runProduct(inject('cluster'), settings)

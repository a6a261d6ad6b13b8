import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { Client } from '../harness/client'
import { startProduct } from '../harness/product'
import type { Product } from '../harness/product'
import { someInputs } from '../hostile/all-inputs'
import { BOUNDS, MOST_HELD } from '../hostile/bounds'
import { Victim } from '../hostile/feed'
import { watchMemory } from '../hostile/held-memory'

let product: Product
beforeAll(async () => {
  product = await startProduct({ ...BOUNDS, AISLE_IMPORT_SECONDS: '15' })
})
afterAll(async () => {
  await product.stop()
})

describe('bad files and bodies', () => {
  it('are taken in or refused in words, in time and within memory, and nothing that was there changes', async () => {
    const inputs = await someInputs()
    expect(inputs).toHaveLength(20)
    const memory = watchMemory(product.data)
    const queue = inputs.values()
    const lane = async (): Promise<void> => {
      const client = new Client(product.url)
      let victim = await Victim.of(client)
      for (const input of queue) {
        const fed = await victim.feed(input).catch((error: unknown) => {
          throw new Error(`${input.door}: ${input.name}`, { cause: error })
        })
        expect([input.name, fed.taken || fed.sentence !== '']).toEqual([input.name, true])
        const edited = fed.taken && ['edit', 'programme'].includes(input.door)
        await victim.lookUnharmed(edited)
        if (edited) victim = await Victim.of(client)
      }
    }
    await Promise.all([lane(), lane()])
    memory.end()
    for (const kind of ['server', 'worker', 'apart'] as const) expect([kind, memory.most()[kind] <= MOST_HELD[kind]]).toEqual([kind, true])
    expect(product.ended()).toEqual([])
  })
})

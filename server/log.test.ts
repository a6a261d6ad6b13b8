import { Writable } from 'node:stream'
import pino from 'pino'
import { expect, it } from 'vitest'
import { log } from './log'

it('tells nothing of an error that a person may have written', () => {
  let said = ''
  const out = new Writable({
    write: (chunk: Buffer, _, done) => {
      said += chunk.toString()
      done()
    },
  })
  const serializers = log[pino.symbols.serializersSym as never] as Record<string, (value: unknown) => unknown>
  const same = pino({ serializers }, out)
  const error = Object.assign(new Error('duplicate key value violates unique constraint'), {
    code: '23505',
    detail: 'Key (notes)=(private words) already exists.',
    where: 'private words',
    parameters: ['private words'],
  })
  same.error({ err: new Error('saving failed', { cause: error }) })
  expect(said).toContain('23505')
  expect(said).not.toContain('private words')
})

import { describe, expect, it } from 'vitest'
import { readJson } from './read-json'

const read = (text: string): unknown => readJson(Buffer.from(text))

describe('JSON from a page', () => {
  it('comes out such that every text in it can be stored', () => {
    expect(read('{"name":"Ti\\u0000de","notes":["half \\ud83d","whole \\ud83c\\udf0a"],"n":1.5,"on":null}')).toEqual({
      name: 'Tide',
      notes: ['half \ufffd', 'whole \ud83c\udf0a'],
      n: 1.5,
      on: null,
    })
  })

  it('is refused when it is none, or nested too deeply', () => {
    expect(() => read('{"name":')).toThrow('no JSON')
    expect(() => read(`${'['.repeat(40)}${']'.repeat(40)}`)).toThrow('nested too deeply')
    expect(read('{"name":"[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[["}')).toEqual({ name: '[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[' })
    expect(read('')).toEqual({})
  })
})

import { expect, it } from 'vitest'
import { run } from '@render/process'
import { chain, constantRate, crop, filter, filtersText, format, graphText, split } from '.'

it('writes chains of filters as ffmpeg reads them', async () => {
  const graph = graphText([
    chain([], [filter('color', [], { c: 'red', s: '64x32', r: 10, d: 1 }), split(2)], ['one', 'two']),
    chain(['one'], [crop(32, 32, 0, 0), constantRate(5)], ['left']),
    chain(['two'], [filter('select', ['between(n,0,1)+between(n,4,5)']), crop(32, 32, 32, 0), constantRate(5)], ['right']),
    chain(['left', 'right'], [filter('hstack'), format('gray')], ['whole']),
  ])
  const { stdout } = await run('ffmpeg', [
    ...['-v', 'error', '-filter_complex', graph, '-map', '[whole]', '-frames:v', '1', '-f', 'rawvideo', 'pipe:1'],
  ])
  expect(stdout.length).toBe(64 * 32)
})

it('quotes what has a meaning of its own there, and refuses what cannot be quoted', () => {
  expect(filtersText([filter('select', ['between(n,0,3)']), filter('volume', [0.5], { eval: 'frame' })])).toBe(
    "select='between(n,0,3)',volume=0.5:eval=frame",
  )
  expect(() => filtersText([filter('drawtext', [], { text: "it's" })])).toThrow('cannot be told')
})

import { describe, expect, it } from 'vitest'
import { subRip, webVtt } from './captions-file'

const captions = [
  { from: 500, until: 2250, lines: ['Low water <was>', 'at six & rising'] },
  { from: 3_661_007, until: 3_663_000, lines: ['then -- five'] },
]

describe('captions as files', () => {
  it('are WebVTT, with nothing in them that could be taken for markup', () => {
    expect(webVtt(captions)).toBe(
      'WEBVTT\n\n00:00:00.500 --> 00:00:02.250\nLow water &lt;was&gt;\nat six &amp; rising\n\n' +
        '01:01:01.007 --> 01:01:03.000\nthen -- five\n',
    )
  })

  it('are SubRip', () => {
    expect(subRip(captions)).toBe(
      '1\n00:00:00,500 --> 00:00:02,250\nLow water <was>\nat six & rising\n\n2\n01:01:01,007 --> 01:01:03,000\nthen -- five\n',
    )
  })
})

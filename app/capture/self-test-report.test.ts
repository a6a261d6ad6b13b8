import { describe, expect, it } from 'vitest'
import { reportText } from './self-test-report'

describe('a self-test as text', () => {
  it('counts what is wrong and names every line with its state', () => {
    const text = reportText(
      [
        {
          title: 'Browser',
          lines: [
            { name: 'Recorder', state: 'good', say: 'VP8' },
            { name: 'Sound with its times', state: 'standIn', say: 'a worklet' },
          ],
        },
        { title: 'Devices', lines: [{ name: 'Level', state: 'bad', say: 'not measured' }] },
      ],
      'Some browser 1.0',
      '2 March 2026',
    )
    expect(text).toBe(
      [
        'Aisle Talk self-test, 2 March 2026',
        'Some browser 1.0',
        '1 thing is wrong.',
        '',
        'Browser',
        '  ok        Recorder: VP8',
        '  stand-in  Sound with its times: a worklet',
        '',
        'Devices',
        '  WRONG     Level: not measured',
      ].join('\n'),
    )
  })
})

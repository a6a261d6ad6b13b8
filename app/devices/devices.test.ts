import { describe, expect, it } from 'vitest'
import { doubtsOf, knownLatency, usualDevice, withLatency } from '.'
import type { OpenDevices } from '.'

const [desk, door] = [
  { id: 'a', label: 'Desk microphone' },
  { id: 'b', label: 'Door microphone' },
]

describe('devices', () => {
  it('are those of last time, by their name where the browser has given them another id, else the first with a word of it', () => {
    expect(usualDevice({ id: 'b', label: 'x' }, [desk, door], 'practice')).toEqual({ id: 'b', missing: null })
    expect(usualDevice({ id: 'gone', label: 'Door microphone' }, [desk, door], 'practice')).toEqual({ id: 'b', missing: null })
    expect(usualDevice(null, [desk, door], 'practice')).toEqual({ id: 'a', missing: null })
    expect(usualDevice(null, [], 'practice')).toEqual({ id: 'practice', missing: null })
    const gone = usualDevice({ id: 'gone', label: 'Boat microphone' }, [desk, door], 'practice')
    expect([gone.id, gone.missing]).toEqual(['a', 'Boat microphone, which you used last, is not here. Desk microphone is chosen instead.'])
  })

  it('are as late as claps before just these said', () => {
    const claps = withLatency(withLatency([], 'cam', 'a', 40), 'cam', 'b', 70)
    expect(knownLatency(claps, 'cam', 'b')).toEqual(knownLatency([{ camera: 'other', mic: 'b', late: 70 }], null, 'b'))
    expect(knownLatency(claps, 'cam', 'a')).not.toEqual(knownLatency(claps, 'cam', 'b'))
    expect(withLatency(claps, 'cam', 'b', null)).toEqual([{ camera: 'cam', mic: 'a', late: 40 }])
    expect(knownLatency(claps, 'elsewhere', 'a')).toEqual(knownLatency([], 'cam', 'a'))
  })

  it('are doubted before a take when they are gone, silent, still or dark, and not before they had time', () => {
    const open = (more: Partial<OpenDevices['mic']>, camera: Partial<NonNullable<OpenDevices['camera']>> | null): OpenDevices => ({
      mic: { name: 'Desk microphone', live: true, verdict: 'good', ...more },
      camera: camera && { name: 'Window camera', live: true, state: { seen: 9900, dark: false }, since: 9000, ...camera },
    })
    expect(doubtsOf(open({}, {}), 10_000)).toEqual([])
    expect(doubtsOf(open({ live: false, verdict: 'nothing' }, null), 10_000)).toEqual([
      'The microphone is gone. Nothing of what you say would be kept.',
    ])
    expect(doubtsOf(open({ verdict: 'nothing' }, { state: { seen: 9900, dark: true } }), 10_000)).toEqual([
      'Nothing is heard from Desk microphone. Is it the right one, and switched on?',
      'The picture of Window camera is black. Is its cover open?',
    ])
    expect(doubtsOf(open({}, { state: { seen: null, dark: false } }), 10_000)).toEqual([])
    expect(doubtsOf(open({}, { state: { seen: null, dark: false } }), 12_000)).toEqual(['Window camera gives no picture.'])
  })
})

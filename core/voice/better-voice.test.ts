import { describe, expect, it } from 'vitest'
import type { VoiceFacts } from '.'
import { betterVoice } from '.'

const facts = (speech: number | null, noise: number | null, hum: VoiceFacts['hum'] = null): VoiceFacts => ({
  speech,
  noise,
  hum,
  rumble: null,
  sharpest: null,
  uneven: 0,
})

describe('of two microphones', () => {
  it('the one from which the voice stands out is better, however loud it is', () => {
    expect(betterVoice([facts(-14, -44), facts(-30, -75)])).toBe(1)
  })

  it('neither is, where nobody hears a difference', () => {
    expect(betterVoice([facts(-20, -60), facts(-22, -63)])).toBeNull()
    expect(betterVoice([facts(null, -60), facts(null, null)])).toBeNull()
  })

  it('one that hums is worse, and one that hears nothing is out', () => {
    expect(betterVoice([facts(-20, -60, { of: '50 Hz', by: 24 }), facts(-20, -58)])).toBe(1)
    expect(betterVoice([facts(-20, -60), facts(null, -90)])).toBe(0)
  })
})

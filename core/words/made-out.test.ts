import { describe, expect, it } from 'vitest'
import type { Word } from '@core/model'
import { isMadeOut } from './made-out'

const word = (sure: number, source: Word['source'] = 'heard'): Word => ({ text: 'calm', from: 0, until: 300, sure, source })

describe('what a recogniser heard', () => {
  it('is worth reading where it agrees with what is written, or enough of it is nearly certain', () => {
    expect(isMadeOut([word(0.3, 'written'), word(0.1)])).toBe(true)
    expect(isMadeOut([word(0.9), word(0.2), word(0.1)])).toBe(true)
  })

  it('is not where it is as doubtful as what is heard in music', () => {
    expect(isMadeOut([word(0.7), word(0.2), word(0.1), word(0.3), word(0)])).toBe(false)
  })
})

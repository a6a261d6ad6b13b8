import { describe, expect, it } from 'vitest'
import { pageStamp } from './page-stamp'

describe('the stamp of a block that a worker reads', () => {
  it("is on the page's clock, whichever clock it was made on", () => {
    // A worker that is 12 s younger than its page, 40 ms old; blocks come some ms after they were captured.
    expect(pageStamp(12_030, 40, 12_000)).toBe(12_030)
    expect(pageStamp(31, 40, 12_000)).toBe(12_031)
    expect(pageStamp(60_000, 60_008, 12_000)).toBe(72_000)
  })
})

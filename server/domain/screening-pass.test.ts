import { expect, it } from 'vitest'

const TALK = '3f1a9c52-7d0b-4c1e-9a51-0c4f1b2d3e4a'
const NOON = Date.UTC(2026, 10, 29, 12)
const HOUR = 3_600_000
const ALL = '0123456789abcdef'

it('opens one version of one talk for six hours at least and twelve at most, the same for all who come at about one time', async () => {
  process.env['DATABASE_URL'] ??= 'postgres://nobody@127.0.0.1:1/none'
  process.env['NUXT_SESSION_PASSWORD'] ??= 'a secret that is as long as it must be'
  const { passFor, readPass } = await import('./screening-pass')
  const version = { talk: TALK, timing: 'recorded', revision: 41 } as const
  const pass = passFor(version, ALL, NOON)
  expect(readPass(pass, NOON + 6 * HOUR - 1)).toEqual({ version, audience: ALL })
  expect(passFor(version, ALL, NOON + HOUR)).toBe(pass)
  expect(readPass(passFor(version, 'ffeeddccbbaa9988', NOON), NOON).audience).toBe('ffeeddccbbaa9988')
  expect(() => readPass(pass, NOON + 12 * HOUR)).toThrow(/is over/)
  expect(readPass(passFor({ ...version, timing: 'planned' }, ALL, NOON), NOON).version.timing).toBe('planned')
  // Another revision, another talk, a longer life: none can be had by changing what is there.
  const bytes = Buffer.from(pass, 'base64url')
  for (let n = 0; n < bytes.length; n += 1) {
    const changed = Buffer.from(bytes)
    changed[n] = (changed[n] ?? 0) ^ 1
    expect(() => readPass(changed.toString('base64url'), NOON)).toThrow(/is over/)
  }
  for (const none of ['', 'x', pass.slice(1), `${pass}AA`]) expect(() => readPass(none, NOON)).toThrow(/is over/)
})

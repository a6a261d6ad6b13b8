import { existsSync, readFileSync } from 'node:fs'
import { expect, it } from 'vitest'

it('says of every line of the security page that it is met, not met or no such thing, and names only files that are there', () => {
  const text = readFileSync('docs/security.md', 'utf8')
  const lines = text.split('\n').filter((line) => /^\| \d/.test(line))
  expect(lines.length).toBeGreaterThan(200)
  for (const line of lines) {
    const [, , asks = '', here = ''] = line.split('|').map((cell) => cell.trim())
    expect([line, asks !== '', /^(met:|not met( by [^:]+)?:|no such thing:) ?\S/.test(here)]).toEqual([line, true, true])
  }
  const files = [...text.matchAll(/`((?:[\w.-]+\/)+[\w.-]+|[\w.-]+\.(?:ts|sh|mjs|json))`/g)].map(([, file = '']) => file)
  expect(files.filter((file) => !existsSync(file))).toEqual([])
})

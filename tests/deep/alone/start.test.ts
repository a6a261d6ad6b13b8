import { spawn } from 'node:child_process'
import { chmodSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import type { TalkCard } from '@contracts'
import { freePort, until } from '../../harness/product'

describe('the start command', () => {
  it('opens with the demo talks on an empty folder, and ends with all that it started when it is told to', async () => {
    const data = mkdtempSync(join(tmpdir(), 'aisle-start-'))
    // The database runs as somebody else, who must be able to enter it.
    chmodSync(data, 0o755)
    const port = await freePort()
    const child = spawn('./start.sh', ['--data', data, '--port', String(port)], { stdio: 'ignore' })
    const ended = new Promise<number | null>((resolve) => {
      child.once('exit', resolve)
    })
    try {
      const talks = await until(
        'the demo talks',
        async () => {
          if (child.exitCode !== null) throw new Error(`it ended with ${String(child.exitCode)}`)
          const answer = await fetch(`http://127.0.0.1:${String(port)}/api/talks`).catch(() => null)
          return answer?.ok === true && ((await answer.json()) as readonly TalkCard[])
        },
        240_000,
      )
      expect(talks.map(({ name, demo }) => [name, demo])).toEqual(
        expect.arrayContaining([
          ['The rule of twelfths', true],
          ['Counting swifts by ear', true],
        ]),
      )
    } finally {
      child.kill('SIGINT')
    }
    expect(await ended).toBe(0)
    await expect(fetch(`http://127.0.0.1:${String(port)}/api/health`)).rejects.toThrow()
    rmSync(data, { recursive: true, force: true })
  })
})

import { mkdirSync } from 'node:fs'
import { isMainThread } from 'node:worker_threads'
import { settings } from '@server/settings'
import type { Settings } from '@server/settings'
import { keepCopiesSmall } from '@server/store'

/** What the server does before it listens. It refuses to start with settings that make no sense, in words. */
function readOrRefuse(): Settings {
  try {
    return settings()
  } catch (error) {
    console.error(error instanceof Error ? error.message : String(error))
    process.exit(1)
  }
}

export default defineNitroPlugin((nitro) => {
  const { host, port, data } = readOrRefuse()
  // Recordings and keys are nobody's else on this machine. While developing, the server is a thread of a process that did this.
  if (isMainThread) process.umask(0o077)
  // On a machine that has none of it yet, where media are kept elsewhere.
  mkdirSync(data, { recursive: true })
  // Also when the built server is started by itself it listens where the settings say, and nowhere else.
  process.env['NITRO_HOST'] ??= host
  process.env['NITRO_PORT'] ??= String(port)
  nitro.hooks.hook('close', keepCopiesSmall())
})

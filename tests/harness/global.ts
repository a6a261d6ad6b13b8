import { chmodSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import pg from 'pg'
import type { TestProject } from 'vitest/node'
import { ensureBuilt } from '../../scripts/start/build'
import { startCluster } from '../../scripts/start/postgres'

declare module 'vitest' {
  export interface ProvidedContext {
    /** Address of a database server of the tests' own. */
    cluster: string
  }
}

/** What is in these databases need not outlive the machine. */
async function withoutSync(cluster: string): Promise<void> {
  const admin = new pg.Client({ connectionString: cluster })
  await admin.connect()
  await admin.query('alter system set fsync to off')
  await admin.query('select pg_reload_conf()')
  await admin.end()
}

/** One database server and one build for a whole run; each product under test gets a database and folder of its own. */
export default async function setup(project: TestProject): Promise<() => void> {
  ensureBuilt()
  const data = mkdtempSync(join(tmpdir(), 'aisle-test-'))
  // The service's user must be able to enter it.
  chmodSync(data, 0o755)
  const cluster = await startCluster(data)
  await withoutSync(cluster.url)
  project.provide('cluster', cluster.url)
  return () => {
    cluster.stop()
    rmSync(data, { recursive: true, force: true })
  }
}

import { chmodSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { sql } from 'kysely'
import { ensureBuilt } from '../../scripts/start/build'
import { startCluster } from '../../scripts/start/postgres'
import type { Cluster } from '../../scripts/start/postgres'
import { startBrowser } from '../harness/browser'
import type { TestBrowser } from '../harness/browser'
import { Client } from '../harness/client'
import { runProduct } from '../harness/run-product'
import type { Product } from '../harness/run-product'

/** What a fault is done to. */
export interface FaultStand {
  readonly cluster: Cluster
  readonly product: Product
  readonly client: Client
  readonly browser: TestBrowser
  /** Ends this browser and starts another on the same profile. */
  readonly newBrowser: () => Promise<void>
  readonly close: () => Promise<void>
}

/** What a fault is done to that no page is needed for. */
export interface BareStand extends Pick<FaultStand, 'cluster' | 'product' | 'client' | 'close'> {
  /** A folder that goes with it. */
  readonly folder: string
  /** Ends every connection to the product's database but our own. */
  readonly cutConnections: () => Promise<void>
  /** The number of the last claim that a worker made. */
  readonly lastClaim: () => Promise<number>
}

/** Sets up database and built product. @param settings for the product */
export async function withoutBrowser(settings: Readonly<Record<string, string>> = {}): Promise<BareStand> {
  ensureBuilt()
  const folder = mkdtempSync(join(tmpdir(), 'aisle-faults-'))
  // The service's user must be able to enter it.
  chmodSync(folder, 0o755)
  const cluster = await startCluster(folder)
  const product = await runProduct(cluster.url, settings)
  return {
    folder,
    cluster,
    product,
    client: new Client(product.url),
    cutConnections: async () => {
      await sql`select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database()
        and pid <> pg_backend_pid()`.execute(product.db)
    },
    lastClaim: async () =>
      (await sql<{ last: number }>`select last_value::int as last from claim_number`.execute(product.db)).rows[0]?.last ?? 0,
    close: async () => {
      await product.stop()
      cluster.stop()
      rmSync(folder, { recursive: true, force: true })
    },
  }
}

/** Sets up database, built product and browser. @param settings for the product */
export async function setUp(settings: Readonly<Record<string, string>> = {}): Promise<FaultStand> {
  const { folder, cluster, product, client, close } = await withoutBrowser(settings)
  const profile = join(folder, 'profile')
  let browser = await startBrowser([], profile)
  return {
    cluster,
    product,
    client,
    get browser() {
      return browser
    },
    newBrowser: async () => {
      await browser.close().catch(() => undefined)
      browser = await startBrowser([], profile)
    },
    close: async () => {
      await browser.close().catch(() => undefined)
      await close()
    },
  }
}

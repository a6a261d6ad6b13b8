import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { sql } from 'kysely'
import type { Product } from './product'

/** What a database server said of how it came to its answers. */
export interface Explained {
  /** Queries that read all rows of one of these tables, each with the table. */
  readonly scans: (tables: readonly string[]) => Promise<readonly string[]>
  /** How many queries were explained. */
  readonly count: () => Promise<number>
}

/** Has a product's database say from now on how it comes to each answer (its module `auto_explain`); its server is started again. */
export async function explained(product: Product): Promise<Explained> {
  const name = new URL(product.databaseUrl).pathname.slice(1)
  for (const [setting, value] of [
    ['session_preload_libraries', 'auto_explain'],
    ['auto_explain.log_min_duration', '0'],
    ['auto_explain.log_nested_statements', 'on'],
  ] as const)
    await sql.raw(`alter database ${name} set ${setting} = '${value}'`).execute(product.db)
  const { rows } = await sql<{ data_directory: string }>`show data_directory`.execute(product.db)
  const file = join(rows[0]?.data_directory ?? '', 'server.log')
  const from = (await readFile(file)).length
  await product.kill('server')
  await product.start('server')
  const plans = async (): Promise<readonly string[]> =>
    (await readFile(file))
      .subarray(from)
      .toString()
      .split(/^.*LOG: {2}duration: [\d.]+ ms {2}plan:$/m)
      .slice(1)
      .map((plan) => plan.split(/^\S/m)[0] ?? '')
  return {
    count: async () => (await plans()).length,
    scans: async (tables) =>
      (await plans()).flatMap((plan) => {
        const table = tables.find((one) => new RegExp(`Seq Scan on "?${one}"?\\b(?!\\w)`).test(plan))
        return table === undefined ? [] : [`${table}: ${/Query Text: ([^]*?)\n\t[A-Z]\w+/.exec(plan)?.[1] ?? plan}`]
      }),
  }
}

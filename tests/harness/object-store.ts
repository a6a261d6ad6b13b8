import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import S3rver from 's3rver'

/** A service that keeps objects, on loopback. */
export interface ObjectService {
  /** What a product is set to, and what lets in there. */
  readonly settings: Readonly<Record<string, string>>
  /** The folder in which it keeps what is in its bucket. */
  readonly folder: string
  /** The file in which it keeps an object of the product. */
  readonly fileOf: (name: string) => string
  /** Is not there any more, though what it keeps is, and comes back under the same address. */
  readonly goAway: () => Promise<void>
  readonly comeBack: () => Promise<void>
  readonly close: () => Promise<void>
}

const BUCKET = 'talks'
const PREFIX = 'school'

/** Starts a service that speaks as S3 does, with an empty bucket. */
export async function startObjects(): Promise<ObjectService> {
  const directory = await mkdtemp(join(tmpdir(), 'aisle-objects-'))
  const configureBuckets = [{ name: BUCKET, configs: [] }]
  const serverOn = (port: number): S3rver => new S3rver({ address: '127.0.0.1', port, silent: true, directory, configureBuckets })
  let server = serverOn(0)
  const { port } = await server.run()
  return {
    folder: join(directory, BUCKET),
    fileOf: (name) => join(directory, BUCKET, PREFIX, `${name}._S3rver_object`),
    settings: {
      AISLE_STORE: `s3://${BUCKET}/${PREFIX}`,
      AISLE_S3_ENDPOINT: `http://127.0.0.1:${String(port)}`,
      AISLE_S3_KEY: 'S3RVER',
      AISLE_S3_SECRET: 'S3RVER',
    },
    goAway: () => server.close(),
    comeBack: async () => {
      server = serverOn(port)
      await server.run()
    },
    close: async () => {
      await server.close()
      await rm(directory, { recursive: true, force: true })
    },
  }
}

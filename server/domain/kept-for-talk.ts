import { readFile } from 'node:fs/promises'
import { Refusal, asId } from '@core/model'
import type { AssetId } from '@core/model'
import type { Queries } from '@server/database'
import { keepAsset, keepStaged, stage } from '@server/store'
import type { StagedFile } from '@server/store'

/** A file that somebody brought, as it lies in the folder of uploads. */
export interface Uploaded {
  readonly path: string
  readonly name: string
  readonly bytes: number
  /** SHA-256. */
  readonly digest: string
}

/** Such a file whose bytes are where they are kept: it only wants a name. */
export interface StagedUpload extends Uploaded {
  readonly staged: StagedFile
}

/** Has the bytes of files that were brought where they are kept: what a transaction is not to wait for. */
export async function stageUploads(files: readonly Uploaded[]): Promise<readonly StagedUpload[]> {
  const staged: StagedUpload[] = []
  for (const file of files) staged.push({ ...file, staged: await stage(file.path) })
  return staged
}

/** A talk has a file of the media store; it may have it already. */
export async function noteAsset(q: Queries, talk: string, digest: string, mime: string, bytes: number): Promise<AssetId> {
  await q
    .insertInto('asset')
    .values({ talk, digest, mime, bytes })
    .onConflict((conflict) => conflict.doNothing())
    .execute()
  return asId(digest)
}

/** Keeps a file that we made as one of a talk's own. */
export async function keepForTalk(q: Queries, talk: string, path: string, mime: string): Promise<AssetId> {
  const bytes = await readFile(path)
  return await noteAsset(q, talk, await keepAsset(bytes), mime, bytes.length)
}

/** Moves in a file that was brought, as it came, as one of a talk's own. */
export async function keepUploaded(q: Queries, talk: string, { path, bytes, digest, staged }: StagedUpload): Promise<AssetId> {
  await keepStaged(path, digest, staged)
  return await noteAsset(q, talk, digest, 'application/octet-stream', bytes)
}

/** @throws Refusal when an edit names a file that the talk does not have @param digests of all that it names */
export async function checkAssets(q: Queries, talk: string, digests: readonly string[]): Promise<void> {
  const named = [...new Set(digests)]
  if (named.length === 0) return
  const { count } = await q
    .selectFrom('asset')
    .select((build) => build.fn.countAll<number>().as('count'))
    .where('talk', '=', talk)
    .where('digest', 'in', named)
    .executeTakeFirstOrThrow()
  if (Number(count) !== named.length)
    throw new Refusal('not-found', 'A picture or sound of this is not in this talk. Nothing was changed; bring its file again.')
}

import { takenOver } from './local-copies'
import { stores } from './stores'

/** What is made again when it is wanted or is only on its way. */
const LEFT_OUT = /^(segments|leaving-[^/]+)\/|\.part$/

/** What came of taking over. */
export interface TakenOver {
  readonly files: number
  readonly bytes: number
  /** Files that were there already. */
  readonly there: number
}

/**
 * Takes all media over from where they were kept before, while people go on: what they want meanwhile is taken over first. Can be broken
 * off and repeated at any point.
 * @param hear is told now and then how far it is
 * @throws Error when there is no such place, or something cannot be taken over
 */
export async function takeAllOver(hear: (so: TakenOver) => void): Promise<TakenOver> {
  const { store, former } = stores()
  if (former === null) throw new Error('AISLE_STORE_FORMER is not set: it says where media were kept before.')
  let [files, bytes, there] = [0, 0, 0]
  for await (const found of former.list('')) {
    if (LEFT_OUT.test(found.name)) continue
    if ((await store.find(found.name))?.bytes === found.bytes) there += 1
    else if ((await takenOver(found.name)) !== null) {
      files += 1
      bytes += found.bytes
    }
    if ((files + there) % 500 === 0) hear({ files, bytes, there })
  }
  return { files, bytes, there }
}

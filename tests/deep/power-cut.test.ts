import { afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { Client } from '../harness/client'
import { cutDisk } from '../harness/power-cut/cut'
import type { CutDisk } from '../harness/power-cut/cut'
import { cutOnce } from '../harness/power-cut/cut-once'
import { Presenter } from '../harness/power-cut/presenter'
import type { Stage } from '../harness/power-cut/presenter'
import { startProduct, until } from '../harness/product'
import type { Product } from '../harness/product'
import { facedRecording } from '../harness/recording'
import { knotsTalk } from '../harness/talks'

/** Parts of a recording that are safe when the power goes: it must be seen that they are there. */
const SOME = 2

let media: Buffer
beforeAll(async () => {
  media = await facedRecording(3, 'teal', 30)
})

describe('a power cut', () => {
  let product: Product
  let disk: CutDisk
  let client: Client
  let talk: string
  let slide: string
  beforeEach(async () => {
    disk = cutDisk()
    product = await startProduct(disk.settings)
    client = new Client(product.url)
    const made = await knotsTalk(client, 'Cut')
    talk = made.talk
    slide = made.slides[0] ?? ''
  })
  afterEach(async () => {
    await product.stop()
    disk.remove()
  })

  it.each<Stage>(['recording', 'made'])('takes nothing that was called safe, and all comes right after it: %s', async (stage) => {
    const presenter = new Presenter(product, client, talk, slide, media, 2800)
    const cut = await cutOnce(
      product,
      disk,
      presenter,
      stage === 'recording' ? presenter.whenSafe(SOME) : until('that stage', () => Promise.resolve(presenter.stage === stage)),
    )
    expect(cut.wrong).toBeNull()
  })
})

it('takes what was called safe on a disk that does not write what it is told to', async () => {
  const disk = cutDisk(false)
  const product = await startProduct(disk.settings)
  try {
    const client = new Client(product.url)
    const { talk, slides } = await knotsTalk(client, 'Cut')
    const presenter = new Presenter(product, client, talk, slides[0] ?? '', media, 2800)
    expect(
      (
        await cutOnce(
          product,
          disk,
          presenter,
          until('the end', () => Promise.resolve(presenter.stage === 'made')),
        )
      ).wrong,
    ).not.toBeNull()
  } finally {
    await product.stop()
    disk.remove()
  }
})

import type { DeliveryView, PersonView } from '@contracts'
import { run } from '@render/process'
import { join } from 'node:path'
import { beginTake, openPage, startRunning } from './running-product'
import type { Figure } from './run'

const CLAPS = 20
const RATE = 30
/** What of the picture shows nothing but the face, in the file of the talk's first slide. */
const LINES = 480

/** When the file's sound clicks, in ms: where it is first loud after having been quiet for a second. */
async function clicksOf(file: string): Promise<readonly number[]> {
  const { stdout } = await run('ffmpeg', ['-v', 'error', '-i', file, '-ac', '1', '-ar', '48000', '-f', 's16le', 'pipe:1'])
  const samples = new Int16Array(stdout.buffer.slice(stdout.byteOffset, stdout.byteOffset + stdout.byteLength))
  const loud = samples.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0) * 0.4
  const clicks: number[] = []
  for (const [n, sample] of samples.entries()) {
    const at = (n / 48_000) * 1000
    if (Math.abs(sample) >= loud && at - (clicks.at(-1) ?? -Infinity) > 1000) clicks.push(at)
  }
  return clicks
}

/** When the face in the file flashes, in ms: the first frame of each flash. */
async function flashesOf(file: string, width: number): Promise<readonly number[]> {
  const { stdout } = await run('ffmpeg', ['-v', 'error', '-i', file, '-vf', 'scale=64:36,format=gray', '-f', 'rawvideo', 'pipe:1'])
  const pixels = 64 * 36
  const frames = Math.floor(stdout.length / pixels)
  if (width === 0 || frames === 0) throw new Error('the file has no pictures')
  const means = Array.from({ length: frames }, (_, n) => stdout.subarray(n * pixels, (n + 1) * pixels).reduce((sum, value) => sum + value, 0) / pixels)
  const [least, most] = [Math.min(...means), Math.max(...means)]
  const bright = (least + most) / 2
  return means.flatMap((mean, n) => (mean > bright && (means[n - 1] ?? 0) <= bright ? [(n * 1000) / RATE] : []))
}

const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1] ?? 0

/** Flash against click of the practice devices, recorded at the Lectern, exported, and read back from the file. */
export async function measure(): Promise<Figure> {
  const product = await startRunning(4393)
  try {
    const { page, close } = await openPage()
    const { person } = await (await fetch(`${product.url}/api/session`)).json() as { person: PersonView | null }
    const device = (label: string) => ({ id: 'practice-clap', label })
    const habits = { camera: device('Practice flash (to test timing)'), mic: device('Practice click (to test timing)') }
    await page.addInitScript(`localStorage.setItem('aisle-habits:${person?.id ?? 'here'}', ${JSON.stringify(JSON.stringify(habits))})`)
    const talk = await beginTake(page, product.url)
    const long = CLAPS * 2
    await page.waitForFunction(`(() => { const [m, s] = document.querySelector('.clock.big').textContent.split(':').map(Number); return m * 60 + s >= ${String(long)} })()`, undefined, { timeout: 300_000 })
    await page.keyboard.press('Escape')
    await page.getByRole('button', { name: 'Stop and keep' }).click()
    await page.getByRole('link', { name: 'Listen in Review' }).waitFor()
    await close()
    const ask = async <Answer>(method: string, path: string, body?: unknown): Promise<Answer> =>
      await (await fetch(`${product.url}/api${path}`, { method, ...(body === undefined ? {} : { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } }) })).json() as Answer
    const { id } = await ask<{ id: string }>('POST', `/talks/${talk}/deliveries`, { lines: LINES, quality: 'good', name: 'lips', limit: { kind: 'none' } })
    let delivery: DeliveryView | undefined
    do {
      await new Promise((resolve) => { setTimeout(resolve, 500) })
      delivery = (await ask<DeliveryView[]>('GET', `/talks/${talk}/deliveries`)).find((one) => one.id === id)
    } while (delivery?.state !== 'done' && delivery?.state !== 'failed')
    if (delivery.state === 'failed') throw new Error(delivery.sentence ?? 'the delivery failed')
    const file = join(product.data, 'store', 'deliveries', id, 'film.mp4')
    const [clicks, flashes] = [await clicksOf(file), await flashesOf(file, delivery.width)]
    const offs = clicks.flatMap((click) => {
      const flash = flashes.find((one) => Math.abs(one - click) < 500)
      return flash === undefined ? [] : [flash - click]
    })
    if (offs.length < CLAPS / 2) throw new Error(`only ${String(offs.length)} claps were found in ${String(clicks.length)} clicks and ${String(flashes.length)} flashes`)
    const { timing } = await ask<{ timing: string }>('GET', `/takes/${(await ask<{ takes: { id: string }[] }>('GET', `/talks/${talk}`)).takes[0]?.id ?? ''}/report`)
    const worst = Math.max(...offs.map((off) => Math.abs(off)))
    return {
      value: Math.round(worst), unit: 'ms', target: 'worst within 45', ok: worst <= 45,
      detail: { claps: offs.length, medianMs: Number(median(offs).toFixed(1)), leastMs: Number(Math.min(...offs).toFixed(1)), mostMs: Number(Math.max(...offs).toFixed(1)), timing, frameMs: Number((1000 / RATE).toFixed(1)) },
    }
  } finally {
    await product.stop()
  }
}

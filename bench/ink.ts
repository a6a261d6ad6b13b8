import { join } from 'node:path'
import type { Page } from 'playwright-core'
import type { FilmView } from '@contracts'
import { run } from '@render/process'
import { beginTake, openPage, startRunning } from './running-product'
import type { Figure } from './figure'

/** How long is drawn, in ms. */
const DRAWING = 20_000
const FRAME = 1000 / 60

/** How long a page that does nothing else draws, to see what the browser itself takes, in ms. */
const BARE = 8000

/** A page with one canvas on which each move draws a line, and nothing else. */
const BARE_PAGE = `<!doctype html><body style="margin:0"><canvas class="bare" width="900" height="506"></canvas><script>
  const ctx = document.querySelector('canvas').getContext('2d')
  document.querySelector('canvas').addEventListener('pointermove', (event) => {
    requestAnimationFrame(() => { ctx.lineTo(event.clientX, event.clientY); ctx.stroke(); ctx.beginPath();
      ctx.moveTo(event.clientX, event.clientY) })
  })
</script>`

/** Watches each move of the pointer over a canvas, from when the browser felt it until the frame that shows it was handed over. */
const watch = (canvas: string): string => `(() => {
  window.seen = []
  window.long = 0
  new PerformanceObserver((list) => { for (const entry of list.getEntries()) window.long += entry.duration }).observe({
    entryTypes: ['longtask'] })
  document.querySelector('${canvas}').addEventListener('pointermove', (event) => {
    const first = event.getCoalescedEvents()[0] ?? event
    requestAnimationFrame(() => {
      const channel = new MessageChannel()
      channel.port1.onmessage = () => { window.seen.push(performance.now() - first.timeStamp) }
      channel.port2.postMessage(0)
    })
  })
})()`

interface Box {
  readonly x: number
  readonly y: number
  readonly width: number
  readonly height: number
}

/**
 * Draws strokes of some seconds, one after the other.
 * @param length ms
 * @returns how long each move took to be seen, in ms, the shortest first
 */
async function drawn(page: Page, box: Box, length: number): Promise<readonly number[]> {
  const began = performance.now()
  for (let n = 0; performance.now() - began < length; n += 1) {
    const [x, y] = [0.5 + 0.35 * Math.cos(n / 23), 0.5 + 0.35 * Math.sin(n / 31)]
    await page.mouse.move(box.x + box.width * x, box.y + box.height * y)
    if (n % 400 === 0) await page.mouse.down()
    if (n % 400 === 399) await page.mouse.up()
  }
  await page.mouse.up()
  return ((await page.evaluate('window.seen')) as number[]).sort((a, b) => a - b)
}

/** What the browser takes on a page that does nothing but draw. */
async function drawnBare(): Promise<readonly number[]> {
  const { page, close } = await openPage()
  // Moves that were gathered are told of on pages of a server only.
  const address = 'http://127.0.0.1:4391/'
  await page.route(address, (route) => route.fulfill({ contentType: 'text/html', body: BARE_PAGE }))
  await page.goto(address)
  await page.evaluate(watch('.bare'))
  const seen = await drawn(page, { x: 0, y: 0, width: 900, height: 506 }, BARE)
  await close()
  return seen
}

const quantile = (sorted: readonly number[], share: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0

/**
 * Pointer to paint at the Lectern while recording with camera, the main thread's time meanwhile, and the camera's frames that were
 * lost.
 */
export async function measure(): Promise<Figure> {
  const bare = await drawnBare()
  const product = await startRunning(4392)
  try {
    const { page, close } = await openPage()
    const talk = await beginTake(page, product.url)
    await page.keyboard.press('d')
    const box = await page.locator('.stage').boundingBox()
    if (box === null) throw new Error('no stage')
    await page.evaluate(watch('.stage .wet'))
    const session = await page.context().newCDPSession(page)
    await session.send('Performance.enable')
    const busy = async (): Promise<number> =>
      (await session.send('Performance.getMetrics')).metrics.find((metric) => metric.name === 'TaskDuration')?.value ?? 0
    const [busyBefore, began] = [await busy(), performance.now()]
    const seen = await drawn(page, box, DRAWING)
    const wall = (performance.now() - began) / 1000
    const main = ((await busy()) - busyBefore) / wall
    const long = (await page.evaluate('window.long')) as number
    await page.keyboard.press('Escape')
    await page.getByRole('button', { name: 'Stop and keep' }).click()
    await page.getByRole('link', { name: 'Listen in Review' }).waitFor()
    const film = (await (await fetch(`${product.url}/api/talks/${talk}/film`)).json()) as FilmView
    await close()
    const [stretch] = film.stretches
    if (stretch === undefined) throw new Error('nothing was recorded')
    const { stdout } = await run('ffprobe', [
      '-v',
      'error',
      '-select_streams',
      'v',
      '-count_packets',
      '-show_entries',
      'stream=nb_read_packets',
      '-of',
      'csv=p=0',
      join(product.data, 'store', 'stretches', stretch.id, 'recording.webm'),
    ])
    const frames = Number.parseInt(stdout.toString(), 10)
    const expected = (stretch.length / 1000) * 30
    const value = Number(quantile(seen, 0.95).toFixed(1))
    return {
      value,
      unit: 'ms',
      target: `p95 within one frame, ${FRAME.toFixed(1)}`,
      ok: value <= FRAME,
      detail: {
        bareP95: Number(quantile(bare, 0.95).toFixed(1)),
        bareMedianMs: Number(quantile(bare, 0.5).toFixed(1)),
        moves: seen.length,
        medianMs: Number(quantile(seen, 0.5).toFixed(1)),
        worstMs: Number((seen.at(-1) ?? 0).toFixed(1)),
        mainThreadShare: Number(main.toFixed(2)),
        longTasksMs: Math.round(long),
        cameraFrames: frames,
        cameraFramesLost: Number(Math.max(0, 1 - frames / expected).toFixed(3)),
        recordedMs: stretch.length,
      },
    }
  } finally {
    await product.stop()
  }
}

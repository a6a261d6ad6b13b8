import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { processesOf } from '../harness/browser'
import { FAITHFUL } from '../harness/stand-in'
import { sleep } from '../harness/timed-take'
import type { Row } from './row'
import { during } from './server-away'
import { setUp } from './stand'
import { beginWatched, lostOf, openLectern, stopWatched, told } from './watched-take'

const HOUR = 3_600_000

/** The data folder is a small disk of its own, which fills up in the middle of a take. */
export async function diskFull(): Promise<Row> {
  const disk = mkdtempSync(join(tmpdir(), 'aisle-small-'))
  execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=64m', 'tmpfs', disk])
  try {
    return await during({
      fault: "server's disk full for 8 s",
      note: 'a disk of 64 MB',
      settings: { AISLE_DATA: disk, AISLE_FREE_FLOOR_MB: '2' },
      go: async (_stand, { page }) => {
        const filler = join(disk, 'filler')
        try {
          writeFileSync(filler, Buffer.alloc(80_000_000))
        } catch {
          // It is full now, which is what was wanted.
        }
        await sleep(8000)
        const said = await told(page)
        rmSync(filler)
        return said
      },
    })
  } finally {
    execFileSync('umount', [disk])
    rmSync(disk, { recursive: true })
  }
}

/** Both the page's clock on the wall and the server's are set back. */
export async function clockSetBack(): Promise<Row> {
  const folder = mkdtempSync(join(tmpdir(), 'aisle-clock-'))
  const [file, script] = [join(folder, 'back'), join(folder, 'clock.cjs')]
  writeFileSync(file, '0')
  writeFileSync(
    script,
    `const { readFileSync } = require('node:fs')
    const Real = Date
    let back = 0
    setInterval(() => { back = Number(readFileSync(${JSON.stringify(file)}, 'utf8')) }, 100).unref()
    globalThis.Date = class extends Real { constructor(...of) {
      super(...(of.length === 0 ? [Real.now() - back] : of)) } static now() { return Real.now() - back } }`,
  )
  try {
    return await during({
      fault: 'clock set back an hour during a take',
      note: 'as page, server and worker see it',
      settings: { NODE_OPTIONS: `--require ${script}` },
      scripts: ['{ const real = Date.now; window.clockBack = 0; Date.now = () => real() - window.clockBack }'],
      go: async (_stand, { page }) => {
        writeFileSync(file, String(HOUR))
        await page.evaluate(`window.clockBack = ${String(HOUR)}`)
        await sleep(2000)
        return told(page)
      },
    })
  } finally {
    rmSync(folder, { recursive: true })
  }
}

/** The page's process stands still, as when a lid is closed; what was said before that must be there, and the take can be gone on with. */
export async function asleep(): Promise<Row> {
  const stand = await setUp()
  try {
    const { page, talk } = await openLectern(stand)
    const take = await beginWatched(page, talk)
    await sleep(4000)
    const processes = await processesOf(stand.browser.context, 'renderer')
    const slept = Date.now() - take.origin
    for (const id of processes) process.kill(id, 'SIGSTOP')
    await sleep(12_000)
    for (const id of processes) process.kill(id, 'SIGCONT')
    await page.getByText('was asleep for').waitFor()
    const said = await told(page)
    await stopWatched(take)
    // The last half second before it slept is not promised: that is how often clocks are looked at.
    return {
      fault: 'computer asleep for 12 s',
      lost: await lostOf(stand, take, slept),
      most: 600,
      told: said,
      note: "the page's process stopped",
    }
  } finally {
    await stand.close()
  }
}

export const cameraPulled = (): Promise<Row> =>
  during({
    fault: 'camera pulled out',
    plan: { ...FAITHFUL, camera: { ...FAITHFUL.camera, ends: 'told' } },
    go: async (_stand, { page }) => {
      await page.evaluate("window.tellDevice('camera', 'end')")
      await page.getByText('The camera stopped').waitFor()
      return told(page)
    },
  })

export const rateChanged = (): Promise<Row> =>
  during({
    fault: 'microphone changes from 48 to 44.1 kHz',
    plan: { ...FAITHFUL, mic: { ...FAITHFUL.mic, change: { after: 'told', rate: 44_100 } } },
    go: async (_stand, { page }) => {
      await page.evaluate("window.tellDevice('mic', 'change')")
      await page.getByText('changed its sample rate').waitFor()
      return told(page)
    },
  })

/** The take pauses by itself; what was said until then must be there. */
export async function micPulled(): Promise<Row> {
  const stand = await setUp()
  try {
    const { page, talk } = await openLectern(stand, { ...FAITHFUL, mic: { ...FAITHFUL.mic, ends: 'told' } })
    const take = await beginWatched(page, talk)
    await page.evaluate("window.tellDevice('mic', 'end')")
    await page.getByText('The microphone stopped').waitFor()
    const said = await told(page)
    const end = Number(await page.evaluate('window.endedAt'))
    await stopWatched(take)
    return { fault: 'microphone pulled out', lost: await lostOf(stand, take, end), most: 0, told: said, note: 'up to where it ended' }
  } finally {
    await stand.close()
  }
}

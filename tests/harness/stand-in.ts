import { buildSync } from 'esbuild'
import type { BrowserContext, Page } from 'playwright-core'
import type { StandIn } from '../stand-in/plan'

export type { StandIn } from '../stand-in/plan'

/** A stand-in that does as it should. */
export const FAITHFUL: StandIn = {
  // No near multiple of half a frame at 30 a second: flashes fall anywhere between two frames, as claps do, so that several average out.
  every: 1523,
  mic: { rate: 48_000, channels: 1, ppm: 0, late: 0, jitter: 2 },
  camera: { width: 640, height: 360, rate: 30, late: 0, starts: 200 },
}

/** A script of `tests/stand-in` for a page. */
export const built = (file: string): string =>
  buildSync({ entryPoints: [`tests/stand-in/${file}`], bundle: true, write: false, format: 'iife', target: 'es2022' }).outputFiles[0]
    ?.text ?? ''

/**
 * Gives pages a camera and a microphone of which it is known when they flash and click. What was remembered of devices by a page
 * before is forgotten: these have the same names, and may be late by other times.
 */
export async function standIn(page: Page | BrowserContext, plan: StandIn): Promise<void> {
  await page.addInitScript('for (const key of Object.keys(localStorage)) if (key.startsWith("aisle-habits")) localStorage.removeItem(key)')
  await page.addInitScript(
    `window.standIn = ${JSON.stringify(plan)}; window.standInWorker = ${JSON.stringify(built('worker.ts'))};\n${built('page.ts')}`,
  )
}

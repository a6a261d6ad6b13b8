import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import puppeteer from 'puppeteer-core'
import type { Page } from 'puppeteer-core'
import { until } from './run-product'
import { built } from './stand-in'

export interface Firefox {
  readonly page: Page
  /** What the pages complained of. */
  readonly faults: readonly string[]
  readonly close: () => Promise<void>
}

/**
 * Something to hear sound on that nobody hears: without any, Firefox does not work with sound.
 * @returns where it listens, and what ends it
 */
function silentLoudspeaker(): { readonly server: string; readonly end: () => void } {
  const folder = mkdtempSync(join(tmpdir(), 'aisle-sound-'))
  const socket = join(folder, 'native')
  const child = spawn(
    'pulseaudio',
    [
      '-n',
      '--daemonize=no',
      '--exit-idle-time=-1',
      '--use-pid-file=no',
      '--disable-shm',
      '-L',
      `module-native-protocol-unix socket=${socket} auth-anonymous=1`,
      '-L',
      'module-null-sink sink_name=silent',
    ],
    { stdio: 'ignore', env: { ...process.env, HOME: folder, XDG_RUNTIME_DIR: folder } },
  )
  return {
    server: `unix:${socket}`,
    end: () => {
      child.kill('SIGTERM')
      rmSync(folder, { recursive: true, force: true })
    },
  }
}

/** Starts Debian's Firefox with one page of 1280x800 and its own made-up camera and microphone. */
export async function startFirefox(): Promise<Firefox> {
  const sound = silentLoudspeaker()
  const browser = await puppeteer.launch({
    browser: 'firefox',
    executablePath: '/usr/bin/firefox-esr',
    headless: true,
    protocolTimeout: 300_000,
    env: { ...process.env, PULSE_SERVER: sound.server },
    extraPrefsFirefox: {
      'media.navigator.streams.fake': true,
      'media.navigator.permission.disabled': true,
      'media.autoplay.default': 0,
      // Nothing is asked of the internet.
      'app.update.enabled': false,
      'extensions.update.enabled': false,
      'browser.safebrowsing.update.enabled': false,
      'datareporting.healthreport.uploadEnabled': false,
      'toolkit.telemetry.enabled': false,
      'services.settings.server': 'data:,',
      'network.captive-portal-service.enabled': false,
      'network.connectivity-service.enabled': false,
    },
  })
  const page = await browser.newPage()
  await page.setViewport({ width: 1280, height: 800 })
  const script = built('firefox-page.ts')
  await page.evaluateOnNewDocument(script)
  const faults: string[] = []
  page.on('pageerror', (error) => {
    faults.push(error instanceof Error ? error.message : String(error))
  })
  return {
    page,
    faults,
    close: async () => {
      await browser.close()
      sound.end()
    },
  }
}

/**
 * Waits until a page shows an element of a selector that says something and is not disabled.
 * @param says text in it, or in its label
 * @param most ms
 * @param bare whether nothing may lie over it
 * @returns where its middle is
 */
export async function seen(
  page: Page,
  selector: string,
  says: RegExp,
  most = 60_000,
  bare = false,
): Promise<{ readonly x: number; readonly y: number }> {
  const ask = `window.placeOf(${[selector, says.source, bare].map((one) => JSON.stringify(one)).join(', ')})`
  return await until(
    `${selector} ${String(says)}`,
    async () => ((await page.evaluate(ask)) as { readonly x: number; readonly y: number } | null) ?? false,
    most,
  )
}

/** Clicks on the first element of a selector that says something, once it is there and nothing lies over it. */
export async function clickOn(page: Page, selector: string, says: RegExp, most = 60_000): Promise<void> {
  let last = { x: -1, y: -1 }
  const place = await until(
    `${selector} ${String(says)} to stand still`,
    async () => {
      const now = await seen(page, selector, says, most, true)
      const still = now.x === last.x && now.y === last.y
      last = now
      return still ? now : false
    },
    most,
  )
  await page.mouse.click(place.x, place.y)
}

import { randomUUID } from 'node:crypto'
import { NOTHING_DRAWN, asId } from '@core/model'
import type { Drawing, ObjectMotion } from '@core/model'
import { newObject } from '@core/objects'
import { visitsOf } from '@core/programme'
import type { FilmView, TalkView } from '@contracts'
import { ask } from '../tests/harness/timed-take'
import { openPage, startRunning } from './running-product'
import { FIND_PLAYER } from './review-player'
import type { Figure } from './figure'

const OBJECTS = 8
/** How long they go, and how long is looked at, in ms. */
const GOES = 8000
const LOOKED = 6000
const LEAST = 30

/** Eight that go along curves, turning and growing, all at once, as the slide comes. */
function drawing(): Drawing {
  const objects = Array.from({ length: OBJECTS }, (_, n) => {
    const kind = (['box', 'ellipse', 'arrow', 'callout'] as const)[n % 4] ?? 'box'
    const made = newObject(asId(randomUUID()), kind, { x: 0.15, y: 0.1 + 0.1 * n })
    return 'label' in made.form ? { ...made, form: { ...made.form, label: `Boat ${String(n)}` } } : made
  })
  const motions = objects.flatMap(({ id: object }, n): readonly ObjectMotion[] => {
    const timed = { object, step: 0, start: n === 0 ? 'step' : 'together', delay: 0, duration: GOES, ease: 'calm' } as const
    const points = [
      { x: 0.3, y: n % 2 === 0 ? 0.1 : -0.1 },
      { x: 0.6, y: 0 },
    ]
    return [
      { ...timed, id: asId(randomUUID()), does: { kind: 'path', points, line: 'curved', turns: true } },
      { ...timed, start: 'together', id: asId(randomUUID()), does: { kind: 'grows', to: 1.4 } },
    ]
  })
  return { ...NOTHING_DRAWN, objects, motions }
}

/** How often a second Review paints a slide on which eight objects move at once, while it plays with its face and voice. */
export async function measure(): Promise<Figure> {
  const product = await startRunning(4396)
  const { page, close } = await openPage()
  try {
    const talks = await ask<readonly { readonly id: string; readonly name: string }[]>(product, 'GET', '/talks')
    const talk = talks.find((one) => one.name === 'The rule of twelfths')?.id ?? ''
    const { programme } = await ask<FilmView>(product, 'GET', `/talks/${talk}/film`)
    const visit = visitsOf(programme).find(({ length, start }) => start > 0 && length > GOES)
    if (visit === undefined) throw new Error('no slide is up for long enough')
    const { revision } = await ask<TalkView>(product, 'GET', `/talks/${talk}`)
    const edit = { kind: 'set', slides: [visit.slide], fields: { drawing: drawing() } }
    await ask(product, 'POST', `/talks/${talk}/deck`, { revision, edit })
    await page.goto(`${product.url}/talks/${talk}/review`)
    await page.locator('.visit').first().waitFor()
    const paints = (await page.evaluate(`(async () => {
      ${FIND_PLAYER}
      player.seek(${String(visit.start + 500)})
      await sleep(1500)
      let turned = []
      const rotate = CanvasRenderingContext2D.prototype.rotate
      CanvasRenderingContext2D.prototype.rotate = function (angle) {
        turned.push(performance.now())
        return rotate.call(this, angle)
      }
      await player.play()
      await sleep(1000)
      turned = []
      await sleep(${String(LOOKED)})
      CanvasRenderingContext2D.prototype.rotate = rotate
      return turned
    })()`)) as readonly number[]
    // Each object is turned once in a picture.
    const pictures = paints.filter((_, n) => n % OBJECTS === 0)
    const gaps = pictures.slice(1).map((at, n) => at - (pictures[n] ?? at))
    const value = Math.round(pictures.length / (LOOKED / 1000))
    const late = gaps.filter((gap) => gap > 1000 / LEAST + 8).length
    return {
      value,
      unit: 'pictures a second',
      target: `${String(LEAST)} or more with ${String(OBJECTS)} objects moving, on a page of 1280 by 800`,
      ok: value >= LEAST,
      detail: { objects: OBJECTS, longestGapMs: Math.round(Math.max(0, ...gaps)), latePictures: late, of: gaps.length },
    }
  } finally {
    await close()
    await product.stop()
  }
}

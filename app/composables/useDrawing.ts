import type { Ref } from 'vue'
import type { Point, Stroke } from '@core/model'
import { PART_POINTS, tidied, withPoints } from '@core/ink'
import { inkPoint, newStroke } from '~/capture'
import { usePreferences } from '~/stores/preferences'
import { useLectern } from '~/stores/lectern'
import { useTalk } from '~/stores/talk'

/** Time after a pen was felt during which touches are taken for a palm, in ms. */
const PALM = 2500
/**
 * How long a hand holds still for its stroke to become the shape it resembles, in ms, and how far it may shake, as a fraction of the
 * slide.
 */
const HOLD = 600
const SHAKE = 0.006
const GOES_ON = 0.02
/** Wait after which what the spot did so far is noted, in ms. */
const SPOT_EVERY = 400

interface Where extends Point {
  readonly p: number
}

/**
 * Turns pointer events on a canvas into strokes, erasures and the spot's path.
 * @param canvas where is drawn
 * @param label asks for the words of a label at a place
 * @param paint draws the stroke under way and the spot, or nothing; called at most once a frame
 */
export function useDrawing(
  canvas: Ref<HTMLCanvasElement | null>,
  paint: (stroke: Stroke | null, spot: Point | null) => void,
  label: (at: Point) => void,
) {
  const lectern = useLectern()
  const preferences = usePreferences()
  const talk = useTalk()
  let stroke: Stroke | null = null
  let began = 0
  let pointer = -1
  let penSeen = -Infinity
  let asked = false
  let erasing = false
  /** Where the hand came to rest last, and what waits for it to have rested. */
  let rest: Point = { x: 0, y: 0 }
  let resting: ReturnType<typeof setTimeout> | undefined
  /** What the hand drew, while the stroke under way is shown as the shape that it was taken for. */
  let drawn: Stroke | null = null
  let spot: { readonly at: Point; readonly from: number; readonly path: readonly (Point & { readonly dt: number })[] } | null = null

  const whereIs = (event: PointerEvent): Where | null => {
    const box = canvas.value?.getBoundingClientRect()
    if (box === undefined || box.width === 0) return null
    return {
      x: (event.clientX - box.left) / box.width,
      y: (event.clientY - box.top) / box.height,
      p: event.pointerType === 'pen' ? event.pressure : 0.5,
    }
  }

  function repaint(): void {
    if (asked) return
    asked = true
    requestAnimationFrame(() => {
      asked = false
      paint(stroke, spot?.at ?? null)
    })
  }

  /** The hand has held still: what it drew becomes the shape that it resembles. */
  function settle(): void {
    if (stroke === null || lectern.tool !== 'pen') return
    const meant = tidied(stroke, talk.talk?.shape ?? { width: 16, height: 9 })
    if (meant === null) return
    drawn = stroke
    stroke = meant
    repaint()
  }

  function waitForRest(at: Point): void {
    if (!preferences.now.tidy || Math.hypot(at.x - rest.x, at.y - rest.y) < SHAKE) return
    rest = { x: at.x, y: at.y }
    clearTimeout(resting)
    resting = setTimeout(settle, HOLD)
  }

  /** Notes where the spot was until now; it goes on from there. */
  function noteSpot(stamp: number, end: boolean): void {
    if (spot === null) return
    const { at, from, path } = spot
    const rest = { dt: Math.max(0, Math.round(stamp - from)), x: at.x, y: at.y }
    lectern.point([...path, rest], from)
    spot = end ? null : { at, from: stamp, path: [{ dt: 0, x: at.x, y: at.y }] }
    repaint()
  }

  function moveSpot(event: PointerEvent, at: Where): void {
    const { x, y } = inkPoint(0, at.x, at.y, 0)
    spot =
      spot === null
        ? { at: { x, y }, from: event.timeStamp, path: [{ dt: 0, x, y }] }
        : { ...spot, at: { x, y }, path: [...spot.path, { dt: Math.max(0, Math.round(event.timeStamp - spot.from)), x, y }] }
    repaint()
  }

  /** A palm that rests beside the pen draws nothing. */
  const isPalm = (event: PointerEvent): boolean => event.pointerType === 'touch' && event.timeStamp - penSeen < PALM
  const begins = (event: PointerEvent): boolean => event.button === 0 && stroke === null && !lectern.blank && !isPalm(event)

  function down(event: PointerEvent): void {
    if (event.pointerType === 'pen') penSeen = event.timeStamp
    const at = whereIs(event)
    if (lectern.slide === null || at === null || !begins(event)) return
    if (lectern.tool === 'hand' || lectern.tool === 'spot') return
    event.preventDefault()
    if (lectern.tool === 'label') {
      label({ x: at.x, y: at.y })
      return
    }
    canvas.value?.setPointerCapture(event.pointerId)
    pointer = event.pointerId
    if (lectern.tool === 'eraser') {
      erasing = true
      lectern.eraseAt(at, event.timeStamp)
      return
    }
    began = event.timeStamp
    drawn = null
    rest = { x: at.x, y: at.y }
    const first = inkPoint(0, at.x, at.y, at.p)
    stroke = newStroke(lectern.slide.id, lectern.tool, lectern.colour, lectern.width, event.pointerType === 'pen', first)
    repaint()
  }

  function move(event: PointerEvent): void {
    if (event.pointerType === 'pen') penSeen = event.timeStamp
    const here = whereIs(event)
    if (lectern.tool === 'spot' && !lectern.blank && here !== null) moveSpot(event, here)
    if (event.pointerId !== pointer) return
    if (erasing && here !== null) lectern.eraseAt(here, event.timeStamp)
    if (stroke === null || rests(here)) return
    if (here !== null) waitForRest(here)
    goOn(event, drawn ?? stroke)
  }

  /** Whether the hand still rests on what it drew; once it goes on it had not finished, and its own stroke goes on. */
  const rests = (here: Point | null): boolean => drawn !== null && (here === null || Math.hypot(here.x - rest.x, here.y - rest.y) < GOES_ON)

  function goOn(event: PointerEvent, from: Stroke): void {
    drawn = null
    const gathered = event.getCoalescedEvents()
    const fresh = (gathered.length > 0 ? gathered : [event]).flatMap((one) => {
      const at = whereIs(one)
      return at === null ? [] : [inkPoint(one.timeStamp - began, at.x, at.y, at.p)]
    })
    stroke = { ...from, points: withPoints(from.points, fresh) }
    if (stroke.points.length >= PART_POINTS) goOnAsAnother(event.timeStamp)
    repaint()
  }

  /** A very long stroke goes on as another one, so that what is drawn is kept while the hand still draws. */
  function goOnAsAnother(stamp: number): void {
    const last = stroke?.points.at(-1)
    if (stroke === null || last === undefined) return
    const { slide, tool, colour, width, pressure } = stroke
    lectern.draw(stroke, began)
    stroke = newStroke(slide, tool ?? 'pen', colour, width, pressure, { x: last.x, y: last.y, p: last.p })
    began = stamp
    drawn = null
  }

  /** Ends what is under way where it is. */
  function finish(): void {
    noteSpot(performance.now(), true)
    erasing = false
    pointer = -1
    clearTimeout(resting)
    if (stroke === null) return
    const whole = stroke
    stroke = null
    lectern.draw(whole, began)
    repaint()
  }

  function up(event: PointerEvent): void {
    if (event.pointerId === pointer) finish()
  }
  const leave = (event: PointerEvent): void => {
    noteSpot(event.timeStamp, true)
  }

  const timer = setInterval(() => {
    noteSpot(performance.now(), false)
  }, SPOT_EVERY)
  watch(
    () => [lectern.tool, lectern.blank, lectern.slide?.id],
    () => {
      noteSpot(performance.now(), true)
    },
  )
  onBeforeUnmount(() => {
    clearInterval(timer)
    clearTimeout(resting)
  })

  return { finish, listeners: { pointerdown: down, pointermove: move, pointerup: up, pointercancel: up, pointerleave: leave } }
}

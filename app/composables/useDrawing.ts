import type { Ref } from 'vue'
import type { Stroke } from '@core/model'
import { inkPoint, newStroke } from '~/capture'
import { useLectern } from '~/stores/lectern'

/** Time after a pen was felt during which touches are taken for a palm, in ms. */
const PALM = 2500

/**
 * Turns pointer events on a canvas into strokes.
 * @param canvas where is drawn
 * @param paint draws the stroke under way, or nothing; called at most once a frame
 */
export function useDrawing(canvas: Ref<HTMLCanvasElement | null>, paint: (stroke: Stroke | null) => void) {
  const lectern = useLectern()
  let stroke: Stroke | null = null
  let began = 0
  let pointer = -1
  let penSeen = -Infinity
  let asked = false

  const whereIs = (event: PointerEvent): { x: number, y: number, p: number } | null => {
    const box = canvas.value?.getBoundingClientRect()
    if (box === undefined || box.width === 0) return null
    return { x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height, p: event.pointerType === 'pen' ? event.pressure : 0.5 }
  }

  function repaint(): void {
    if (asked) return
    asked = true
    requestAnimationFrame(() => {
      asked = false
      paint(stroke)
    })
  }

  function down(event: PointerEvent): void {
    if (event.pointerType === 'pen') penSeen = event.timeStamp
    const palm = event.pointerType === 'touch' && event.timeStamp - penSeen < PALM
    const at = whereIs(event)
    if (lectern.tool !== 'pen' || lectern.slide === null || lectern.blank || palm || event.button !== 0 || at === null || stroke !== null) return
    event.preventDefault()
    canvas.value?.setPointerCapture(event.pointerId)
    pointer = event.pointerId
    began = event.timeStamp
    const first = inkPoint(0, at.x, at.y, at.p)
    stroke = newStroke(lectern.slide.id, lectern.colour, lectern.width, event.pointerType === 'pen', first)
    repaint()
  }

  function move(event: PointerEvent): void {
    if (event.pointerType === 'pen') penSeen = event.timeStamp
    if (stroke === null || event.pointerId !== pointer) return
    const gathered = event.getCoalescedEvents()
    const fresh = (gathered.length > 0 ? gathered : [event]).flatMap((one) => {
      const at = whereIs(one)
      return at === null ? [] : [inkPoint(one.timeStamp - began, at.x, at.y, at.p)]
    })
    stroke = { ...stroke, points: [...stroke.points, ...fresh] }
    repaint()
  }

  /** Ends the stroke under way where it is. */
  function finish(): void {
    if (stroke === null) return
    const whole = stroke
    stroke = null
    pointer = -1
    lectern.draw(whole, began)
    repaint()
  }

  function up(event: PointerEvent): void {
    if (event.pointerId === pointer) finish()
  }

  return { finish, listeners: { pointerdown: down, pointermove: move, pointerup: up, pointercancel: up } }
}

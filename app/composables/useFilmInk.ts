import { shownSpan, sourceAt } from '@core/programme'
import type { Ref } from 'vue'
import { mendedStroke, withPoints } from '@core/ink'
import { paintStroke } from '@core/paint'
import { groundOf, onSlideOf, pieceAt, sceneAt, strokeAt } from '@core/scene'
import type { FilmIndex, Scene } from '@core/scene'
import { INK_WIDTHS } from '@core/model'
import type { AddedInk, InkPoint, Ms, Point, Size, Stroke } from '@core/model'
import { inkPoint, newStroke } from '~/capture'
import { useInkAfterwards } from '~/stores/ink-afterwards'

/** What the picture is doing. */
export interface Playing {
  readonly at: Ref<Ms>
  readonly playing: Ref<boolean>
  readonly speed: Ref<number>
  readonly pause: () => void
}

/** A stroke on its way into the film. */
interface Drawing {
  readonly began: number
  readonly place: Omit<AddedInk, 'stroke'>
  /** Ms of the recording for each ms of the hand. */
  readonly pace: number
  readonly stroke: Stroke
}

/**
 * Chooses strokes on the picture of a film, and draws new ones: while it plays they grow as they were drawn, while it stands they begin
 * where it stands.
 * @param canvas laid over the picture
 * @param toggle what a click does that touches no stroke
 */
export function useFilmInk(
  canvas: Ref<HTMLCanvasElement | null>,
  index: Ref<FilmIndex | null>,
  size: Ref<Size>,
  film: Playing,
  toggle: () => void,
) {
  const ink = useInkAfterwards()
  let drawing: Drawing | null = null

  const sceneNow = (): Scene | null => (index.value === null ? null : sceneAt(index.value, film.at.value))

  const inFrame = (event: PointerEvent): Point | null => {
    const box = canvas.value?.getBoundingClientRect()
    return box === undefined || box.width === 0
      ? null
      : { x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height }
  }
  const pointOf = (event: PointerEvent, dt: Ms, scene: Scene): InkPoint | null => {
    const at = inFrame(event)
    if (at === null) return null
    const { x, y } = onSlideOf(scene, at)
    return inkPoint(dt, x, y, event.pointerType === 'pen' ? event.pressure : 0.5)
  }

  /** Where in the recordings the film stands. */
  function placeNow(): { readonly place: Omit<AddedInk, 'stroke'>; readonly rate: number } | null {
    const found = index.value === null ? null : pieceAt(index.value, film.at.value)
    if (found === null || index.value === null) return null
    const { piece, into } = found
    const span = shownSpan(piece)
    return {
      place: { visit: piece.visit, over: groundOf(piece), at: Math.round(sourceAt(span, into)) },
      rate: span.rate.num / span.rate.den,
    }
  }

  function outlineOf(ctx: CanvasRenderingContext2D, stroke: Stroke, { stage }: Scene): void {
    const [wide, high] = [size.value.width, size.value.height]
    const place = ({ x, y }: Point): readonly [number, number] => [(stage.x + x * stage.w) * wide, (stage.y + y * stage.h) * high]
    ctx.save()
    ctx.globalAlpha = 0.5
    ctx.strokeStyle = getComputedStyle(canvas.value as Element).getPropertyValue('--accent')
    ctx.lineWidth = INK_WIDTHS[stroke.width] * high + 10
    ctx.lineCap = 'round'
    ctx.lineJoin = 'round'
    ctx.beginPath()
    for (const [n, point] of stroke.points.entries()) {
      if (n === 0) ctx.moveTo(...place(point))
      ctx.lineTo(...place(point))
    }
    ctx.stroke()
    ctx.restore()
  }

  function paint(): void {
    const ctx = canvas.value?.getContext('2d')
    const scene = sceneNow()
    if (ctx == null || scene === null) return
    ctx.clearRect(0, 0, size.value.width, size.value.height)
    for (const { stroke } of scene.ink) if (ink.chosen?.strokes.includes(stroke.id)) outlineOf(ctx, stroke, scene)
    const { stage } = scene
    ctx.save()
    ctx.translate(stage.x * size.value.width, stage.y * size.value.height)
    const inner = { width: stage.w * size.value.width, height: stage.h * size.value.height }
    const wet = [
      ...ink.fresh.filter((one) => one.stroke.slide === scene.slide).map((one) => one.stroke),
      ...(drawing === null ? [] : [drawing.stroke]),
    ]
    for (const stroke of wet) paintStroke<CanvasImageSource>(ctx, { stroke, elapsed: null }, inner)
    ctx.restore()
  }

  /** Chooses the stroke that was clicked on; a click beside all of them lets go, or plays and pauses. */
  function chooseAt(scene: Scene, at: Point, more: boolean): void {
    const hit = strokeAt(scene, at, size.value)
    const found = index.value === null ? null : pieceAt(index.value, film.at.value)
    if (hit === null || found === null) {
      if (ink.chosen === null) toggle()
      else ink.letGo()
      return
    }
    film.pause()
    ink.choose(found.piece.visit, more && ink.chosen !== null ? [...ink.chosen.strokes, hit.id] : [hit.id])
  }

  function down(event: PointerEvent): void {
    const scene = sceneNow()
    const at = inFrame(event)
    if (scene === null || at === null || event.button !== 0) return
    if (ink.pen === null) chooseAt(scene, at, event.shiftKey)
    else beginStroke(event, scene, ink.pen)
  }

  function beginStroke(event: PointerEvent, scene: Scene, pen: 'pen' | 'marker'): void {
    const place = placeNow()
    const first = pointOf(event, 0, scene)
    if (place === null || first === null || scene.shown === null || drawing !== null) return
    event.preventDefault()
    canvas.value?.setPointerCapture(event.pointerId)
    drawing = {
      began: event.timeStamp,
      place: place.place,
      pace: film.playing.value ? film.speed.value * place.rate : 1,
      stroke: newStroke(scene.slide, pen, ink.colour, ink.width, event.pointerType === 'pen', first),
    }
    paint()
  }

  function move(event: PointerEvent): void {
    const scene = sceneNow()
    if (drawing === null || scene === null) return
    const { began, pace, stroke } = drawing
    const gathered = event.getCoalescedEvents()
    const fresh = (gathered.length > 0 ? gathered : [event]).flatMap((one) => pointOf(one, (one.timeStamp - began) * pace, scene) ?? [])
    drawing = { ...drawing, stroke: { ...stroke, points: withPoints(stroke.points, fresh) } }
    paint()
  }

  function up(): void {
    if (drawing === null) return
    const { place, stroke } = drawing
    drawing = null
    void ink.draw({ ...place, stroke: mendedStroke(stroke) }).then(paint)
    paint()
  }

  watch([() => ink.chosen, () => ink.fresh, film.at, size, index], () => {
    void nextTick(paint)
  })
  return { listeners: { pointerdown: down, pointermove: move, pointerup: up, pointercancel: up } }
}

import type Konva from 'konva'
import type { Ref } from 'vue'
import { motionsOf, objectsAt, placeOn, wayOf, withMotion } from '@core/objects'
import type { MotionDeed, Point, Size } from '@core/model'
import { useObjects } from '~/stores/objects'

/** A dot on a way stands for so much time, in ms. */
const DOT = 250
const MOST_DOTS = 60
/** Points of a way that is drawn by hand are kept so far apart, in fractions of the slide. */
const APART = 0.012

type Path = Extract<MotionDeed, { kind: 'path' }>

/** The way of the chosen motion on the slide, and its points, which are dragged. Places are in fractions of the slide. */
export function useMotionPath(size: Ref<Size>, step: Ref<number>) {
  const objects = useObjects()
  /** While a point is dragged: as the way will be. */
  const draft = shallowRef<Path | null>(null)
  const path = computed<Path | null>(() => {
    const { chosenMotion } = objects
    if (chosenMotion?.does.kind !== 'path' || chosenMotion.step !== step.value) return null
    return draft.value ?? chosenMotion.does
  })
  /** Where the object stands when its way begins. */
  const from = computed<Point | null>(() => {
    const { slide, kept, chosenMotion } = objects
    if (slide === null || chosenMotion === null) return null
    const begins = motionsOf(kept, chosenMotion.step).find(({ motion }) => motion.id === chosenMotion.id)?.from ?? 0
    // Its own way has not begun then.
    const before = { ...kept, motions: kept.motions.filter(({ id }) => id !== chosenMotion.id) }
    const scenes = objectsAt({ composition: slide.composition, drawing: before }, step.value, begins, size.value)
    return scenes.find(({ object }) => object.id === chosenMotion.object)?.at ?? null
  })
  const onSlide = ({ x, y }: Point): Point => ({ x: x + (from.value?.x ?? 0), y: y + (from.value?.y ?? 0) })
  const way = computed(() => (path.value === null || from.value === null ? null : wayOf(path.value, size.value)))
  /** Where it is after each quarter of a second, were it always as fast. */
  const dots = computed<readonly Point[]>(() => {
    const line = way.value
    if (line === null) return []
    const count = Math.max(1, Math.min(MOST_DOTS, Math.round((objects.chosenMotion?.duration ?? 0) / DOT)))
    return Array.from({ length: count }, (_, n) => onSlide(placeOn(line, (n + 1) / count)))
  })

  function keep(does: Path): void {
    const { chosenMotion, kept } = objects
    draft.value = null
    if (chosenMotion !== null) objects.keep(withMotion(kept, { ...chosenMotion, does }))
  }

  function moved(n: number, event: Konva.KonvaEventObject<DragEvent>): void {
    if (path.value === null || from.value === null) return
    const at = { x: event.target.x() / size.value.width - from.value.x, y: event.target.y() / size.value.height - from.value.y }
    draft.value = { ...path.value, points: path.value.points.map((point, k) => (k === n ? at : point)) }
  }

  /** A way that was drawn by hand, from wherever that was begun. */
  function drawn(points: readonly Point[]): void {
    const [first] = points
    const { chosenMotion } = objects
    if (first === undefined || chosenMotion?.does.kind !== 'path') return
    const kept: Point[] = []
    let last = first
    for (const point of points) {
      if (Math.hypot(point.x - last.x, point.y - last.y) < APART && point !== points.at(-1)) continue
      kept.push({ x: point.x - first.x, y: point.y - first.y })
      last = point
    }
    keep({ ...chosenMotion.does, line: 'freehand', points: kept })
  }

  return {
    way: computed(() => way.value?.points.map(onSlide) ?? null),
    dots,
    /** Ways drawn by hand have too many to be dragged one by one: of those the last is. */
    points: computed(() => {
      const points = path.value?.points ?? []
      return path.value?.line === 'freehand' ? [] : points.map(onSlide)
    }),
    moved,
    left: (): void => {
      if (draft.value !== null) keep(draft.value)
    },
    drawn,
  }
}

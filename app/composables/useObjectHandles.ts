import type Konva from 'konva'
import type { Ref } from 'vue'
import { around, boundsOfObject, changed, movedBy, objectsAt, snapped } from '@core/objects'
import type { ObjectScene, SnapLine } from '@core/objects'
import { SMALLEST_OBJECT } from '@core/model'
import type { ObjectId, Point, Rect, Size, SlideObject } from '@core/model'
import { useObjects } from '~/stores/objects'

/** How near an edge comes to be laid along another, in pixels of the page. */
const NEAR = 6

/** Turns are kept between half a turn back and half a turn on. */
const withinTurn = (degrees: number): number => ((((degrees + 180) % 360) + 360) % 360) - 180

/**
 * Handles of what is drawn on a slide, by a layer of its own over the picture.
 * @param layer on which they are @param size of that, in pixels of the page @param free what is kept for the face
 */
export function useObjectHandles(layer: Ref<Konva.Layer | null>, size: Ref<Size>, step: Ref<number>, free: Ref<Rect | null>) {
  const objects = useObjects()
  const lines = shallowRef<readonly SnapLine[]>([])
  /** As they are kept: while a hand moves them the handles are ahead of that. */
  const scenes = computed<readonly ObjectScene[]>(() => {
    const { slide, kept } = objects
    return slide === null ? [] : objectsAt({ composition: slide.composition, drawing: kept }, step.value, Infinity, size.value)
  })
  const byId = computed(() => new Map(scenes.value.map((scene) => [scene.object.id, scene])))

  /** What a handle is drawn with. */
  const configOf = ({ object, at, turn, scale }: ObjectScene) => {
    const [width, height] = [object.box.w * size.value.width * scale, object.box.h * size.value.height * scale]
    return {
      id: object.id,
      x: at.x * size.value.width,
      y: at.y * size.value.height,
      width,
      height,
      offsetX: width / 2,
      offsetY: height / 2,
      scaleX: 1,
      scaleY: 1,
      rotation: turn,
      fill: 'rgba(0,0,0,0.001)',
      stroke: 'rgba(0,0,0,0.001)',
      strokeWidth: 2,
      hitStrokeWidth: 14,
      strokeScaleEnabled: false,
      draggable: !object.locked,
      listening: !object.locked,
    }
  }

  const nodeOf = (id: ObjectId): Konva.Node | undefined => layer.value?.findOne(`#${id}`)

  /** An object as its handle is now. */
  function fromNode(object: SlideObject): SlideObject {
    const [scene, node] = [byId.value.get(object.id), nodeOf(object.id)]
    if (scene === undefined || node === undefined) return object
    const w = Math.max(SMALLEST_OBJECT, object.box.w * node.scaleX())
    const h = Math.max(SMALLEST_OBJECT, object.box.h * node.scaleY())
    const [dx, dy] = [node.x() / size.value.width - scene.at.x, node.y() / size.value.height - scene.at.y]
    const middle = { x: object.box.x + object.box.w / 2 + dx, y: object.box.y + object.box.h / 2 + dy }
    const turn = withinTurn(object.turn + node.rotation() - scene.turn)
    return { ...object, box: { x: middle.x - w / 2, y: middle.y - h / 2, w, h }, turn }
  }
  const fromNodes = (): void => {
    objects.draft = changed(objects.kept, objects.chosen, fromNode)
  }

  /** Has what is dragged lie along something that is near. */
  function snap(): void {
    const moving = scenes.value.filter(({ object }) => objects.chosen.has(object.id))
    const box = around(moving.map((scene) => boundsOf(scene)))
    if (box === null) return
    const others = scenes.value.filter(({ object }) => !objects.chosen.has(object.id)).map((scene) => boundsOfObject(scene, size.value))
    const near = { x: NEAR / size.value.width, y: NEAR / size.value.height }
    const found = snapped(box, [...others, ...(free.value === null ? [] : [free.value])], near)
    lines.value = found.lines
    for (const { object } of moving) nodeOf(object.id)?.move({ x: found.x * size.value.width, y: found.y * size.value.height })
  }
  /** What an object covers where its handle is now. */
  function boundsOf(scene: ObjectScene): Rect {
    const node = nodeOf(scene.object.id)
    const at = node === undefined ? scene.at : { x: node.x() / size.value.width, y: node.y() / size.value.height }
    return boundsOfObject({ ...scene, at }, size.value)
  }

  function dragged(event: Konva.KonvaEventObject<DragEvent>): void {
    if (!event.evt.altKey) snap()
    fromNodes()
  }
  function left(): void {
    lines.value = []
    fromNodes()
    for (const id of objects.chosen) nodeOf(id)?.scale({ x: 1, y: 1 })
    if (objects.draft !== null) objects.keep(objects.draft)
  }
  const moveBy = (by: Point): void => {
    objects.keep(movedBy(objects.kept, objects.chosen, by))
  }

  return { scenes, lines, configOf, nodeOf, dragged, transformed: fromNodes, left, moveBy }
}

import { defineStore } from 'pinia'
import {
  changed,
  copied,
  drawingOf,
  movesFor,
  newFreehand,
  newObject,
  newPicture,
  withGroups,
  withMore,
  withMotion,
  without,
} from '@core/objects'
import type { PlainKind } from '@core/objects'
import { MOST_OBJECTS, asId } from '@core/model'
import type { Drawing, MotionDeed, MotionId, ObjectId, ObjectMotion, Point, Slide, SlideObject, Theme } from '@core/model'
import { assetUrl, bringPictures, themeOnPicture } from '~/client'
import { useTalk } from './talk'

const MIDDLE: Point = { x: 0.5, y: 0.5 }
const fresh = (): string => crypto.randomUUID()
const NOBODY: ReadonlySet<ObjectId> = new Set()

/** What is drawn on the slide on the bench: what of it is chosen, how it is while a hand moves it, and what plays. */
export const useObjects = defineStore('objects', () => {
  const talk = useTalk()
  const slide = computed<Slide | null>(() => talk.slide)
  const chosen = shallowRef<ReadonlySet<ObjectId>>(NOBODY)
  const motion = ref<MotionId | null>(null)
  /** As it will be when the hand lets go. */
  const draft = shallowRef<Drawing | null>(null)
  /** The object whose words are being written on the slide. */
  const writing = ref<ObjectId | null>(null)
  /** What is drawn by hand next: a line, or the way of the chosen motion. */
  const pen = ref<'line' | 'path' | null>(null)
  /** How long the step has been playing, in ms; Infinity: it stands. */
  const elapsed = ref(Infinity)
  const kept = computed<Drawing>(() => drawingOf(slide.value ?? {}))
  const drawing = computed(() => draft.value ?? kept.value)
  const chosenObjects = computed(() => kept.value.objects.filter(({ id }) => chosen.value.has(id)))
  const chosenMotion = computed(() => kept.value.motions.find(({ id }) => id === motion.value) ?? null)

  function keep(next: Drawing): void {
    draft.value = null
    if (slide.value !== null && next !== kept.value) talk.edit({ kind: 'set', slides: [slide.value.id], fields: { drawing: next } })
  }

  /** Chooses objects, with those of their groups. @param more whether it is besides what is chosen, or no more if it is */
  function choose(ids: readonly ObjectId[], more = false): void {
    const wanted = withGroups(kept.value, new Set(ids))
    const have = more ? chosen.value : NOBODY
    const all = [...wanted].every((id) => have.has(id))
    chosen.value = new Set(all && more ? [...have].filter((id) => !wanted.has(id)) : [...have, ...wanted])
    if (chosenMotion.value !== null && !chosen.value.has(chosenMotion.value.object)) motion.value = null
  }

  /** What is put first on a slide that came from a file is in colours that are read on it. */
  async function themed(): Promise<Drawing> {
    const picture = slide.value?.steps.at(-1)?.picture
    if (talk.talk === null || picture === undefined || picture.kind === 'composed' || kept.value.objects.length > 0) return kept.value
    return { ...kept.value, theme: await themeOnPicture(assetUrl(talk.talk.id, picture.thumb)).catch(() => kept.value.theme) }
  }
  async function put(objects: readonly SlideObject[]): Promise<void> {
    const { id } = slide.value ?? {}
    if (kept.value.objects.length + objects.length > MOST_OBJECTS) {
      talk.trouble = `A slide takes up to ${String(MOST_OBJECTS)} objects. Take some off it first.`
      return
    }
    const drawing = await themed()
    if (slide.value?.id !== id) return
    keep(withMore(drawing, objects))
    chosen.value = new Set(objects.map((object) => object.id))
    // Words are what one of words is for.
    if (objects[0]?.form.kind === 'text') writing.value = objects[0].id
  }
  const add = (kind: PlainKind): Promise<void> => put([newObject(asId(fresh()), kind, MIDDLE)])
  const addLine = (points: readonly Point[]): Promise<void> =>
    points.length > 0 ? put([newFreehand(asId(fresh()), points)]) : Promise.resolve()
  async function addPictures(files: readonly File[]): Promise<void> {
    const open = talk.talk
    if (open === null) return
    try {
      const pictures = await bringPictures(open.id, files)
      const made = pictures.map(({ asset, size, alt }) =>
        newPicture(asId(fresh()), { kind: 'picture', asset, size, alt }, MIDDLE, open.shape),
      )
      await put(made)
    } catch (error) {
      talk.report(error)
    }
  }

  const change = (make: (object: SlideObject) => SlideObject): void => {
    keep(changed(kept.value, chosen.value, make))
  }
  function copy(): void {
    const { drawing: next, copies } = copied(kept.value, chosen.value, fresh)
    keep(next)
    chosen.value = copies
  }
  function remove(): void {
    keep(without(kept.value, chosen.value))
    chosen.value = NOBODY
    motion.value = null
  }

  /** Has the chosen objects do something with a step, all at once. */
  function animate(step: number, does: MotionDeed): void {
    const made = [...chosen.value].map((object, n): ObjectMotion => ({
      id: asId(fresh()),
      object,
      step,
      start: n === 0 ? 'step' : 'together',
      delay: 0,
      duration: does.kind === 'path' ? 2000 : 600,
      ease: 'calm',
      does,
    }))
    keep(made.reduce(withMotion, kept.value))
    motion.value = made[0]?.id ?? null
  }
  function changeMotion(fields: Partial<Omit<ObjectMotion, 'id'>>): void {
    if (chosenMotion.value !== null) keep(withMotion(kept.value, { ...chosenMotion.value, ...fields }))
  }

  function clear(): void {
    chosen.value = NOBODY
    motion.value = null
    draft.value = null
    pen.value = null
    writing.value = null
    elapsed.value = Infinity
  }
  watch(() => slide.value?.id, clear)

  return {
    slide,
    chosen,
    motion,
    draft,
    pen,
    writing,
    elapsed,
    kept,
    drawing,
    chosenObjects,
    chosenMotion,
    keep,
    choose,
    add,
    addLine,
    addPictures,
    change,
    copy,
    remove,
    animate,
    changeMotion,
    clear,
    newGroup: fresh,
    setTheme: (theme: Theme): void => {
      keep({ ...kept.value, theme })
    },
    /** How long something moves with a step, in ms. */
    movesFor: (step: number): number => movesFor(kept.value, step),
  }
})

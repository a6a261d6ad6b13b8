import { until } from '@vueuse/core'
import { defineStore } from 'pinia'
import { BED_GAIN, NO_VOICES, OVERLAY_LENGTH, Refusal, SHORTEST_BED, asId, clipLength } from '@core/model'
import type { Bed, BedId, Ms, Overlay, OverlayId, StretchId, Theme, VisitId, VoiceTreatment } from '@core/model'
import type { Tune } from '@core/music'
import { bedEnd } from '@core/plan'
import { placedBeds, placedOverlays } from '@core/programme'
import type { MeasuredVoice, MusicView } from '@contracts'
import { api, bringIn, bringMusic, bringPictures } from '~/client'
import { useProgrammeEdits } from './programme-edits'
import { useTalk } from './talk'

/** Something on the lane of what lies over a talk. */
export type DressedItem = { readonly from: Ms; readonly to: Ms } & (
  | { readonly kind: 'over'; readonly id: OverlayId; readonly hung: Overlay }
  | { readonly kind: 'music'; readonly id: BedId; readonly hung: Bed }
)

/** How long what is new stays, in ms. */
const USUAL: Readonly<Record<Overlay['kind'], Ms>> = { card: 4000, 'lower-third': 6000, text: 5000, picture: 6000 }
const USUAL_FADE = { in: 800, out: 2500 } as const

/** What lies over a talk, and what is done to its voices, as Review changes it. */
export const useDressing = defineStore('dressing', () => {
  const talk = useTalk()
  const edits = useProgrammeEdits()
  /** What is chosen on the lane. */
  const chosenId = ref<string | null>(null)
  /** Whether voices are heard as they were recorded, while a key is held. */
  const asRecorded = ref(false)
  /** Whether a tidied voice is being made. */
  const preparing = ref(false)
  const trouble = ref<string | null>(null)
  const bringing = ref(false)
  const voices = shallowRef<readonly MeasuredVoice[] | null>(null)

  const items = computed<readonly DressedItem[]>(() => [
    ...placedOverlays(talk.programme).map(({ hung, from, to }) => ({ kind: 'over' as const, id: hung.id, hung, from, to })),
    ...placedBeds(talk.programme).map((bed) => ({
      kind: 'music' as const,
      id: bed.hung.id,
      hung: bed.hung,
      from: bed.from,
      to: bedEnd(bed),
    })),
  ])
  const chosen = computed(() => items.value.find(({ id }) => id === chosenId.value) ?? null)
  const length = computed(() => talk.index?.length ?? 0)

  /** What a time of the talk hangs on. */
  function anchorAt(at: Ms): { readonly visit: VisitId; readonly offset: Ms } | null {
    const visit = talk.visits.findLast(({ start }) => start <= at) ?? talk.visits[0]
    return visit === undefined ? null : { visit: visit.id, offset: Math.round(at - visit.start) }
  }

  const put = (overlay: Overlay): Promise<void> => edits.edit({ kind: 'overlay', overlay })
  const putBed = (bed: Bed): Promise<void> => edits.edit({ kind: 'bed', bed })

  /** Changes something, as it is by then. */
  function change({ id }: DressedItem, fields: Partial<Overlay> | Partial<Bed>): void {
    void edits.editThen(() => {
      const overlay = talk.programme.overlays?.find((one) => one.id === id)
      // Fields of another kind are never asked for: each kind has a form of its own.
      if (overlay !== undefined) return { kind: 'overlay', overlay: { ...overlay, ...fields } as Overlay }
      const bed = talk.programme.beds?.find((one) => one.id === id)
      return bed === undefined ? null : { kind: 'bed', bed: { ...bed, ...fields } as Bed }
    })
  }

  /** Has something begin elsewhere, and end elsewhere. @param to null: it is as long as it was */
  function place(item: DressedItem, from: Ms, to: Ms | null): void {
    const anchor = anchorAt(Math.max(0, Math.min(from, length.value - 1)))
    if (anchor === null) return
    const least = item.kind === 'over' ? OVERLAY_LENGTH.least : SHORTEST_BED
    // What lasts to the end goes on doing so unless its end is taken elsewhere.
    const stays = to === null || (item.hung.length === null && to === item.to)
    change(item, { ...anchor, length: stays ? item.hung.length : Math.max(least, Math.round(to - from)) } as
      Partial<Overlay> | Partial<Bed>)
  }

  /** Lays something new over the talk. @param at of the talk, in ms */
  async function add(
    make: (place: { readonly id: OverlayId; readonly visit: VisitId; readonly offset: Ms; readonly length: Ms }) => Overlay,
    at: Ms,
    kind: Overlay['kind'],
  ): Promise<void> {
    const anchor = anchorAt(at)
    if (anchor === null) return
    const id = asId<'overlay'>(crypto.randomUUID())
    const most = Math.max(OVERLAY_LENGTH.least, length.value - at)
    await put(make({ id, ...anchor, length: Math.round(Math.min(USUAL[kind], most)) }))
    if (edits.trouble === null) chosenId.value = id
  }

  /** A card with a time of its own, before the talk or after it: its slide is held below it. */
  async function addCard(where: 'opening' | 'closing', theme: Theme, heading: string, body: string): Promise<void> {
    const visit = where === 'opening' ? talk.visits[0] : talk.visits.at(-1)
    const version = visit === undefined ? undefined : talk.programme.slides[visit.slide]
    if (visit === undefined || version === undefined) return
    const [name, id] = [crypto.randomUUID(), asId<'overlay'>(crypto.randomUUID())]
    const before = where === 'opening' ? visit.id : null
    await edits.edit({
      kind: 'all',
      edits: [
        { kind: 'insert', slide: visit.slide, version, length: USUAL.card, before, name },
        { kind: 'overlay', overlay: { kind: 'card', id, visit: asId(name), offset: 0, length: USUAL.card, theme, heading, body } },
      ],
    })
    if (edits.trouble === null) chosenId.value = id
  }

  /** Shows a finished film before the talk or after it: it becomes a slide of the deck, and is played in a visit of its own. */
  async function addFilm(where: 'before' | 'after', film: File): Promise<void> {
    const id = talk.talk?.id
    if (id === undefined) return
    await brought(async () => {
      const known = new Set(talk.slides.map((slide) => slide.id))
      const imported = await bringIn(id, [film], where === 'before' ? 0 : undefined)
      const state = computed(() => talk.talk?.imports.find((one) => one.id === imported))
      await until(() => ['done', 'failed'].includes(state.value?.state ?? '')).toBe(true)
      const slide = talk.slides.find((one) => !known.has(one.id) && (one.clips ?? []).some(({ media }) => media.picture !== null))
      const clip = slide?.clips?.[0]
      if (slide === undefined || clip === undefined)
        throw new Refusal('unreadable', state.value?.sentence ?? 'This is no film that can be shown. Bring MP4, MOV or WebM.')
      await edits.edit({
        kind: 'insert',
        slide: slide.id,
        version: slide.version,
        length: clipLength(clip),
        before: where === 'before' ? (talk.visits[0]?.id ?? null) : null,
        name: crypto.randomUUID(),
      })
    })
  }

  async function addPicture(files: readonly File[], at: Ms): Promise<void> {
    const id = talk.talk?.id
    if (id === undefined || files.length === 0) return
    await brought(async () => {
      const [picture] = await bringPictures(id, files.slice(0, 1))
      if (picture === undefined) return
      const box = { x: 0.3, y: 0.25, w: 0.4, h: 0.5 }
      const { asset, size, alt } = picture
      await add((place) => ({ kind: 'picture', ...place, asset, size, alt, box }), at, 'picture')
    })
  }

  /** Puts music under the talk from its beginning on. @param from a file, or one of the tunes that ship */
  async function addMusic(from: File | Tune): Promise<void> {
    const id = talk.talk?.id
    if (id === undefined) return
    await brought(async () => {
      const music = await bringMusic(id, from)
      const anchor = anchorAt(0)
      if (anchor === null) return
      const bed = newBed(music, anchor)
      await putBed(bed)
      if (edits.trouble === null) chosenId.value = bed.id
    })
  }

  async function brought(work: () => Promise<void>): Promise<void> {
    bringing.value = true
    await edits.attempt(work)
    bringing.value = false
  }

  async function remove(id: OverlayId | BedId): Promise<void> {
    await edits.edit({ kind: 'bare', ids: [id] })
  }

  async function loadVoices(): Promise<void> {
    const id = talk.talk?.id
    if (id === undefined) return
    await edits.attempt(async () => {
      voices.value = await api.get<readonly MeasuredVoice[]>(`/talks/${id}/voices`)
    })
  }

  /** What is done to a recording, or to a visit; null: nothing was said of it. */
  const treatmentOfStretch = (stretch: StretchId): VoiceTreatment | null => (talk.programme.voices ?? NO_VOICES).stretches[stretch] ?? null
  const treatmentOfVisit = (visit: VisitId): VoiceTreatment | null => (talk.programme.voices ?? NO_VOICES).visits[visit] ?? null

  async function treat(stretches: readonly StretchId[], visits: readonly VisitId[], treatment: VoiceTreatment | null): Promise<void> {
    trouble.value = null
    await edits.edit({ kind: 'voice', stretches, visits, treatment })
  }

  return {
    chosenId,
    chosen,
    items,
    asRecorded,
    preparing,
    trouble,
    bringing,
    voices,
    add,
    addCard,
    addFilm,
    addPicture,
    addMusic,
    change,
    place,
    remove,
    loadVoices,
    treat,
    treatmentOfStretch,
    treatmentOfVisit,
  }
})

/** Music as it is at first: under all of the talk, again and again, much softer than speech. */
const newBed = ({ name, credit, media }: MusicView, anchor: { readonly visit: VisitId; readonly offset: Ms }): Bed => ({
  id: asId(crypto.randomUUID()),
  ...anchor,
  name,
  media,
  length: null,
  from: 0,
  repeat: true,
  fadeIn: USUAL_FADE.in,
  fadeOut: USUAL_FADE.out,
  gain: BED_GAIN.usual,
  instead: false,
  credit,
})

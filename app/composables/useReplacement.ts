import type { Ref } from 'vue'
import type { Slide, SlideId } from '@core/model'
import type { BroughtDeck, ImportView } from '@contracts'
import { api } from '~/client'
import { useTalk } from '~/stores/talk'

/** What a slide of the new deck is: one that was there, as it was or changed, one that may be, or none. */
export type SlideKind = 'same' | 'changed' | 'asked' | 'new'

/** A slide of the new deck, and the one of the old that it is. */
export interface ReplacedSlide {
  readonly brought: Slide
  readonly number: number
  readonly old: Slide | null
  readonly kind: SlideKind
}

type Pair = BroughtDeck['pairs'][number]

/** What a slide is. @param said whether somebody said so @param pair as it was found, if it was */
function kindOf(old: Slide | null, said: boolean, pair: Pair | undefined): SlideKind {
  if (old === null) return 'new'
  if (!said && pair?.sure !== true) return 'asked'
  return pair?.slide === old.id && !pair.changed ? 'same' : 'changed'
}

/** A deck that was brought to take the place of the talk's: what each of its slides is, what was said of that, and what comes of it. */
export function useReplacement(imported: Ref<ImportView>) {
  const talk = useTalk()
  const deck = shallowRef<BroughtDeck | null>(null)
  /** What somebody said: which old slide a new one is; null: none. */
  const said = shallowRef<ReadonlyMap<SlideId, SlideId | null>>(new Map())
  const { busy, trouble, attempt } = useAttempt()
  const path = computed(() => `/talks/${talk.talk?.id ?? ''}/imports/${imported.value.id}`)

  watch(
    path,
    () => {
      said.value = new Map()
      void attempt(async () => {
        deck.value = await api.get<BroughtDeck>(`${path.value}/brought`)
      })
    },
    { immediate: true },
  )

  const oldById = computed(() => new Map(talk.slides.map((slide) => [slide.id, slide])))
  const rows = computed<readonly ReplacedSlide[]>(() => {
    const found = new Map((deck.value?.pairs ?? []).map((pair) => [pair.brought, pair]))
    return (deck.value?.slides ?? []).map((brought, n) => {
      const [pair, own] = [found.get(brought.id), said.value.get(brought.id)]
      const slide = own === undefined ? pair?.slide : own
      const old = slide == null ? null : (oldById.value.get(slide) ?? null)
      return { brought, number: n + 1, old, kind: kindOf(old, own !== undefined, pair) }
    })
  })
  const kept = computed(() => new Set(rows.value.flatMap(({ old }) => old?.id ?? [])))
  const gone = computed(() => talk.slides.filter(({ id }) => !kept.value.has(id)))
  const count = (kind: SlideKind): number => rows.value.filter((row) => row.kind === kind).length

  /** Says which old slide a new one is; one that was another's until then is that no more. */
  function say(brought: SlideId, slide: SlideId | null): void {
    const next = new Map(said.value)
    for (const row of rows.value) if (slide !== null && row.old?.id === slide && row.brought.id !== brought) next.set(row.brought.id, null)
    next.set(brought, slide)
    said.value = next
  }
  /** Every slide that is asked about is the one that it is taken for. */
  function sayAll(): void {
    const next = new Map(said.value)
    for (const { kind, brought, old } of rows.value) if (kind === 'asked') next.set(brought.id, old?.id ?? null)
    said.value = next
  }

  const settle = (how: () => Promise<unknown>): Promise<void> =>
    attempt(async () => {
      await how()
      await talk.refresh()
    })
  const take = (): Promise<void> =>
    settle(() =>
      api.post(`${path.value}/take-over`, {
        revision: talk.talk?.revision ?? 0,
        pairs: rows.value.flatMap(({ brought, old }) => (old === null ? [] : [{ slide: old.id, brought: brought.id }])),
      }),
    )
  const leave = (): Promise<void> => settle(() => api.delete(`${path.value}/brought`))
  return { deck, rows, gone, count, say, sayAll, take, leave, busy, trouble }
}

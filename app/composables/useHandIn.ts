import { useNow } from '@vueuse/core'
import { fileName, withoutEnding } from '@core/plan'
import { isReady, judge, remedyOf } from '@core/rules'
import type { Remedy, RuleLine, Rules } from '@core/rules'
import { isUnderWay } from '@core/model'
import type { Recipe } from '@core/model'
import { companyOf } from '@contracts'
import type { EstimateView, HandInView, SendingWish, SentView } from '@contracts'
import { api, sentenceOf } from '~/client'
import { factsOf, fileToHandIn, reckonedFacts } from '~/hand-in'
import { useTalk } from '~/stores/talk'

/** A rule with what can be done about it. */
export interface HeldRule extends RuleLine {
  readonly remedy: Remedy
}

/** What is filled in for a hand-in. */
interface Filled {
  readonly fields?: Readonly<Record<string, string>>
  readonly cover?: string | null
}

/** How the open talk is handed in: its rules, held against the file that there is or would be, and what was sent. */
export function useHandIn(recipe: () => Recipe | null, estimate: () => EstimateView | null) {
  const talk = useTalk()
  const view = ref<HandInView | null>(null)
  const { busy, trouble, attempt } = useAttempt()
  const path = computed(() => `/talks/${talk.talk?.id ?? ''}/hand-in`)
  /** Rules with a last moment are looked at again while the page is open. */
  const now = useNow({ interval: 30_000 })

  /** Changes of what is filled in that the server has not answered for yet. */
  let filling = 0
  /** Asked for whenever something changes: what is said of something that failed stays. */
  async function load(): Promise<void> {
    if (talk.talk === null) return
    try {
      const found = await api.get<HandInView>(path.value)
      // What was filled in meanwhile is newer.
      if (filling === 0) view.value = found
    } catch (error) {
      trouble.value = sentenceOf(error)
    }
  }
  /** What was sent, alone: while a file is on its way it is asked for every second. */
  async function loadSent(): Promise<void> {
    if (talk.talk === null || view.value === null) return
    try {
      const sent = await api.get<SentView>(`${path.value}/sent`)
      if (view.value !== null) view.value = { ...view.value, ...sent }
    } catch (error) {
      trouble.value = sentenceOf(error)
    }
  }
  /** Does something, and shows what came of it. */
  const then = (work: () => Promise<unknown>, shown: () => Promise<void>): Promise<void> =>
    attempt(async () => {
      await work()
      await shown()
    })
  const take = (wish: { readonly rules: Rules } | { readonly desk: string }): Promise<void> =>
    attempt(async () => {
      view.value = await api.put<HandInView>(path.value, wish)
      await talk.refresh()
    })
  /** What is filled in counts at once: the next field may be left before the server has answered for this one. */
  let last = Promise.resolve()
  const fill = (filled: Filled): Promise<void> => {
    if (view.value !== null) view.value = { ...view.value, ...filled }
    filling += 1
    last = last
      // Nothing waits for it: what is pressed while it is on its way is not held up.
      .then(() => {
        trouble.value = null
        return api.patch<unknown>(path.value, filled)
      })
      .catch((error: unknown) => {
        trouble.value = sentenceOf(error)
      })
      .then(() => {
        filling -= 1
        return filling === 0 ? load() : undefined
      })
      .then(() => talk.refresh())
    return last
  }
  const leave = (): Promise<void> => then(() => api.delete(path.value), load)

  /** The file that is looked at; null: none is made yet. */
  const file = computed(() => fileToHandIn(talk.ledger, talk.programme.revision))
  const isOld = computed(() => file.value !== null && file.value.revision !== talk.programme.revision)
  const isMaking = computed(() => talk.ledger.some(({ state }) => isUnderWay(state)))

  const plannedName = (one: Recipe): string =>
    fileName(one.name, { talk: talk.talk?.name ?? '', date: '', lines: String(one.lines), slide: '', number: '' }, view.value?.fields ?? {})
  const facts = computed(() => {
    const [wanted, open] = [recipe(), talk.talk]
    if (wanted === null || open === null || view.value === null) return null
    const found = file.value === null ? null : factsOf(file.value)
    return found ?? reckonedFacts(wanted, plannedName(wanted), open.shape, view.value.words, estimate())
  })
  const rules = computed<readonly HeldRule[]>(() => {
    const [wanted, open, held, found] = [recipe(), talk.talk, view.value, facts.value]
    if (wanted === null || open === null || found === null || held === null || held.rules === null) return []
    const asked = held.rules
    const company = companyOf(held, now.value.getTime())
    const of = {
      rules: asked,
      recipe: wanted,
      shape: open.shape,
      bytes: found.bytes,
      made: found.made,
      words: held.words,
      fields: held.fields,
      tooLong: found.length > (asked.length?.most ?? Infinity) * 1000,
    }
    return judge(asked, found, company).map((line) => ({ ...line, remedy: remedyOf(line, of) }))
  })
  const ready = computed(() => facts.value?.made === true && !isOld.value && isReady(rules.value))

  const send = (delivery: string, wish: SendingWish): Promise<void> => then(() => api.post(`/deliveries/${delivery}/send`, wish), loadSent)
  const again = (sending: string): Promise<void> => then(() => api.post(`/sendings/${sending}/retry`), loadSent)
  const stop = (sending: string): Promise<void> => then(() => api.post(`/sendings/${sending}/cancel`), loadSent)
  const rename = async (name: string): Promise<void> => {
    const id = file.value?.id
    if (id === undefined) return
    await then(() => api.patch(`/deliveries/${id}`, { name: withoutEnding(name), exact: true }), talk.refresh)
  }

  watch(() => [talk.talk?.id, talk.programme.revision, talk.wordsVersion, talk.talk?.language], load, { immediate: true })
  // A file that is deleted cannot be sent on.
  watch(() => [talk.sendingsVersion, talk.ledger.length], loadSent)
  return { view, busy, trouble, file, facts, isOld, isMaking, rules, ready, take, fill, leave, send, again, stop, rename, load }
}

export type HandIn = ReturnType<typeof useHandIn>

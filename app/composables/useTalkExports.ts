import type { ExportKind, ExportWish, TalkExportView } from '@contracts'
import { api, sentenceOf } from '~/client'
import { useTalk } from '~/stores/talk'

/** What is made of the open talk to be taken along. */
export function useTalkExports() {
  const talk = useTalk()
  const { busy, trouble, attempt } = useAttempt()
  const made = ref<readonly TalkExportView[]>([])
  const path = computed(() => `/talks/${talk.talk?.id ?? ''}/exports`)
  const ofKind = (kind: ExportKind): TalkExportView | null => made.value.find((one) => one.kind === kind) ?? null

  async function load(): Promise<void> {
    if (talk.talk === null) return
    try {
      made.value = await api.get<TalkExportView[]>(path.value)
    } catch (error) {
      trouble.value = sentenceOf(error)
    }
  }
  const order = (wish: ExportWish): Promise<void> =>
    attempt(async () => {
      made.value = await api.post<TalkExportView[]>(path.value, wish)
    })
  const remove = (kind: ExportKind): Promise<void> =>
    attempt(async () => {
      made.value = await api.delete<TalkExportView[]>(`${path.value}/${kind}`)
    })
  const address = (kind: ExportKind): string => `/api${path.value}/${kind}/file`

  watch(() => [talk.talk?.id, talk.exportsVersion, talk.programme.revision, talk.talk?.revision], load, { immediate: true })
  return { busy, trouble, ofKind, order, remove, address }
}

import type { PeoplePage, PersonChange, PersonRow } from '@contracts'
import { api } from '~/client'

/** The people of a server, some at a time, and what an operator does with their accounts. */
export function usePeople() {
  const page = shallowRef<PeoplePage | null>(null)
  const words = ref('')
  const from = ref(0)
  const { busy, trouble, attempt } = useAttempt()

  async function fetchPage(): Promise<void> {
    const query = new URLSearchParams({ words: words.value, from: String(from.value) })
    page.value = await api.get<PeoplePage>(`/operator/people?${query.toString()}`)
  }
  const load = (): Promise<void> => attempt(fetchPage)
  /** Does something, and shows what is then. @returns whether it was done */
  async function done(work: () => Promise<unknown>): Promise<boolean> {
    await attempt(async () => {
      await work()
      await fetchPage()
    })
    return trouble.value === null
  }
  const change = ({ id }: PersonRow, what: PersonChange): Promise<boolean> => done(() => api.patch(`/operator/people/${id}`, what))
  const handOver = ({ id }: PersonRow, email: string): Promise<boolean> =>
    done(() => api.post(`/operator/people/${id}/hand-over`, { email }))
  const takeBack = (address: string): Promise<boolean> =>
    done(() => api.delete(`/operator/people/invitation?${new URLSearchParams({ email: address }).toString()}`))
  /** A link that sets somebody's password; null when there is none. */
  async function resetLink({ id }: PersonRow): Promise<string | null> {
    let link: string | null = null
    await attempt(async () => {
      link = (await api.post<{ link: string }>(`/operator/people/${id}/reset`)).link
    })
    return link
  }
  return { page, words, from, busy, trouble, load, change, handOver, takeBack, resetLink }
}

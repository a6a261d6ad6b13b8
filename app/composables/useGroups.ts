import type { GroupFields, GroupView, PersonNamed } from '@contracts'
import { api } from '~/client'
import { useAttempt } from './useAttempt'

/** The groups that somebody shares with; changes are saved at once, one after the other. */
export function useGroups() {
  const groups = shallowRef<readonly GroupView[] | null>(null)
  const { trouble, attempt } = useAttempt()
  let saving: Promise<void> = Promise.resolve()

  const load = (): Promise<void> =>
    attempt(async () => {
      groups.value = await api.get<readonly GroupView[]>('/groups')
    })
  const make = (name: string): Promise<void> =>
    attempt(async () => {
      const group = await api.post<GroupView>('/groups', { name, members: [] } satisfies GroupFields)
      groups.value = [...(groups.value ?? []), group]
    })
  /** What could not be saved is said, and shown as it is kept. */
  function change(group: GroupView, fields: Partial<GroupFields>): void {
    const next = { ...group, ...fields }
    groups.value = (groups.value ?? []).map((one) => (one.id === group.id ? next : one))
    saving = saving.then(async () => {
      await attempt(async () => {
        await api.put(`/groups/${next.id}`, { name: next.name, members: next.members } satisfies GroupFields)
      })
      if (trouble.value === null) return
      const said = trouble.value
      await load()
      trouble.value = said
    })
  }
  const remove = (group: GroupView): Promise<void> =>
    attempt(async () => {
      await api.delete(`/groups/${group.id}`)
      groups.value = (groups.value ?? []).filter((one) => one.id !== group.id)
    })
  return { groups, trouble, load, make, change, remove }
}

/** Those who may see one talk by their address. */
export function useSharedWith(talk: () => string) {
  const people = shallowRef<readonly PersonNamed[]>([])
  const { trouble, attempt } = useAttempt()
  let saving: Promise<void> = Promise.resolve()
  const load = (): Promise<void> =>
    attempt(async () => {
      people.value = await api.get<readonly PersonNamed[]>(`/talks/${talk()}/share/people`)
    })
  function change(next: readonly PersonNamed[]): void {
    const before = people.value
    people.value = next
    saving = saving.then(() =>
      attempt(async () => {
        try {
          await api.put(`/talks/${talk()}/share/people`, { people: next })
        } catch (error) {
          people.value = before
          throw error
        }
      }),
    )
  }
  return { people, trouble, load, change }
}

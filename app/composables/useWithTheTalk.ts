import { dequal } from 'dequal'
import type { SharedFile, SharedLink } from '@contracts'
import { api, bringAlong } from '~/client'
import { useAttempt } from './useAttempt'

/** Files and links that those who watch a talk find with it; changes are saved at once, one after the other. */
export function useWithTheTalk(talk: () => string) {
  const files = shallowRef<readonly SharedFile[]>([])
  const links = shallowRef<readonly SharedLink[]>([])
  const { trouble, attempt } = useAttempt()
  /** Files that are on their way. */
  const coming = ref(0)
  let saving: Promise<void> = Promise.resolve()
  /** Links as the server has them, as far as is known here. */
  let kept: readonly SharedLink[] = []
  let loaded = ''

  const load = (): Promise<void> =>
    attempt(async () => {
      const id = talk()
      const [ofFiles, ofLinks] = await Promise.all([
        api.get<readonly SharedFile[]>(`/talks/${id}/share/files`),
        api.get<readonly SharedLink[]>(`/talks/${id}/share/links`),
      ])
      if (talk() !== id) return
      files.value = ofFiles
      // What is being written here is not thrown away for what another page says.
      if (loaded !== id || dequal(links.value, kept)) links.value = ofLinks
      kept = ofLinks
      loaded = id
    })

  async function add(chosen: readonly File[]): Promise<void> {
    if (chosen.length === 0) return
    coming.value += chosen.length
    await attempt(async () => {
      files.value = await bringAlong(talk(), chosen)
    })
    coming.value -= chosen.length
  }
  const remove = (file: SharedFile): Promise<void> =>
    attempt(async () => {
      files.value = await api.delete<readonly SharedFile[]>(`/talks/${talk()}/share/files/${file.id}`)
    })

  /** Puts others in place of the links. What could not be saved is said, and stays as it was written. */
  function change(next: readonly SharedLink[]): Promise<void> {
    links.value = next
    saving = saving.then(() =>
      attempt(async () => {
        kept = await api.put<readonly SharedLink[]>(`/talks/${talk()}/share/links`, { links: next })
        // No link stands beside the film for longer than that is.
        if (links.value === next) links.value = kept
      }),
    )
    return saving
  }
  return { files, links, trouble, coming, load, add, remove, change }
}

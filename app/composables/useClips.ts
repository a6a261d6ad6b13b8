import type { Clip, ClipId, Slide } from '@core/model'
import { bringClips } from '~/client'
import { useTalk } from '~/stores/talk'

/** Changes the clips of a slide. @param slide asked anew for each change */
export function useClips(slide: () => Slide) {
  const talk = useTalk()

  const set = (clips: readonly Clip[]): void => {
    talk.edit({ kind: 'set', slides: [slide().id], fields: { clips } })
  }
  const change = (id: ClipId, fields: Partial<Clip>): void => {
    set((slide().clips ?? []).map((clip) => (clip.id === id ? { ...clip, ...fields } : clip)))
  }
  const takeOff = (id: ClipId): void => {
    set((slide().clips ?? []).filter((clip) => clip.id !== id))
  }
  /** Sends files to be clips of the slide. */
  async function bring(files: readonly File[]): Promise<void> {
    if (talk.talk === null || files.length === 0) return
    try {
      await bringClips(talk.talk.id, slide().id, files)
      await talk.refresh()
    } catch (error) {
      talk.report(error)
    }
  }
  return { change, takeOff, bring }
}

/** Whether all of some files are films, moving pictures or sounds. */
export const areClips = (files: readonly File[]): boolean =>
  files.length > 0 && files.every(({ type }) => /^(video|audio)\//.test(type) || type === 'image/gif')

import type { Clip, ClipId, Slide } from '@core/model'
import { bringClips } from '~/client'
import { useTalk } from '~/stores/talk'

/** Changes the clips of a slide. @param slide asked anew for each change; null: there is none now, and nothing is changed */
export function useClips(slide: () => Slide | null) {
  const talk = useTalk()

  function set(update: (clips: readonly Clip[]) => readonly Clip[]): void {
    const now = slide()
    if (now !== null) talk.edit({ kind: 'set', slides: [now.id], fields: { clips: update(now.clips ?? []) } })
  }
  const change = (id: ClipId, fields: Partial<Clip>): void => {
    set((clips) => clips.map((clip) => (clip.id === id ? { ...clip, ...fields } : clip)))
  }
  const takeOff = (id: ClipId): void => {
    set((clips) => clips.filter((clip) => clip.id !== id))
  }
  /** Sends files to be clips of the slide. */
  async function bring(files: readonly File[]): Promise<void> {
    const now = slide()
    if (talk.talk === null || now === null || files.length === 0) return
    try {
      await bringClips(talk.talk.id, now.id, files)
      await talk.refresh()
    } catch (error) {
      talk.report(error)
    }
  }
  return { change, takeOff, bring }
}

/**
 * Whether all of some files are meant to be clips of a slide: films, moving pictures and sounds. On a slide that came from a file nothing
 * else can be put, and any picture may be a moving one.
 */
export const areClips = (files: readonly File[], slide: Pick<Slide, 'composition'>): boolean => {
  const clip = slide.composition === null ? /^(video|audio|image)\// : /^(video|audio)\/|^image\/gif$/
  return files.length > 0 && files.every(({ type }) => clip.test(type))
}

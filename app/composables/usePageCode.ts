import { toCanvas } from 'qrcode'
import { withPictures } from '@core/compose'
import { MOST_PICTURES } from '@core/model'
import type { ComposedPicture, Slide } from '@core/model'
import type { ShareView } from '@contracts'
import { api, bringPictures } from '~/client'
import { useTalk } from '~/stores/talk'

/** Pixels of a code's side: sharp on any slide. */
const SIDE = 1200

/** The code of an address as a file. */
async function codeFile(address: string): Promise<File> {
  const canvas = document.createElement('canvas')
  await toCanvas(canvas, address, { width: SIDE, margin: 3, errorCorrectionLevel: 'M' })
  const bytes = await new Promise<Blob | null>((resolve) => {
    canvas.toBlob(resolve, 'image/png')
  })
  if (bytes === null) throw new Error('no code was drawn')
  return new File([bytes], 'code.png', { type: 'image/png' })
}

/** Puts the code of the talk's page on a slide that is made here; one that led elsewhere gives way to it. */
export function usePageCode(slide: () => Slide) {
  const talk = useTalk()
  const making = ref(false)
  const ready = computed(() => {
    const pictures = slide().composition?.pictures
    return (
      pictures !== undefined && !talk.isGuests && (pictures.length < MOST_PICTURES || pictures.some(({ leadsTo }) => leadsTo !== undefined))
    )
  })

  async function put(): Promise<void> {
    const { id, composition } = slide()
    if (composition === null || talk.talk === null) return
    making.value = true
    try {
      const { address } = await api.get<ShareView>(`/talks/${talk.talk.id}/share`)
      const [made] = await bringPictures(talk.talk.id, [await codeFile(address)])
      if (made === undefined) return
      const code: ComposedPicture = { ...made, alt: `Code to scan, for ${address}`, leadsTo: address }
      const others = composition.pictures.filter(({ leadsTo }) => leadsTo === undefined)
      talk.edit({ kind: 'set', slides: [id], fields: { composition: withPictures({ ...composition, pictures: others }, [code]) } })
    } catch (error) {
      talk.report(error)
    } finally {
      making.value = false
    }
  }
  /** One is on it already. */
  const there = computed(() => slide().composition?.pictures.some(({ leadsTo }) => leadsTo !== undefined) ?? false)
  return { ready, there, making, put }
}

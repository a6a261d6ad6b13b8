import type { Ref } from 'vue'
import type { ScreenedSlide, ScreenedVisit, ScreeningView } from '@contracts'
import { useKept } from './useKept'

/** What plays a talk, as far as descriptions stop it and have it go on. */
interface Played {
  readonly visit: Readonly<Ref<ScreenedVisit | null>>
  readonly playing: Readonly<Ref<boolean>>
  readonly play: () => void
  readonly pause: () => void
}

/** A voice of this machine that reads a language aloud; none is asked for from elsewhere. */
function voiceFor(language: string): SpeechSynthesisVoice | null {
  const [wanted = ''] = language.toLowerCase().split('-')
  const voices = 'speechSynthesis' in window ? window.speechSynthesis.getVoices() : []
  return voices.find(({ lang, localService }) => localService && lang.toLowerCase().startsWith(wanted)) ?? null
}

/**
 * A talk told to those who do not see it: it stops as a slide comes, what that shows is said, by a reader of theirs or a voice of their
 * machine, and it goes on. Each slide is told once, until the page is loaded again.
 */
export function useDescriptions(view: ScreeningView, { visit, playing, play, pause }: Played) {
  const described = view.slides.filter(({ description }) => description !== '')
  const wanted = useKept('aisle-described', false)
  const told = ref<ScreenedSlide | null>(null)
  const done = new Set<string>()

  /** Goes on once a slide is told, or at once when somebody has had enough. */
  function goOn(): void {
    if (told.value === null) return
    told.value = null
    if ('speechSynthesis' in window) window.speechSynthesis.cancel()
    play()
  }

  function tell(slide: ScreenedSlide): void {
    done.add(slide.id)
    pause()
    told.value = slide
    const voice = voiceFor(view.language)
    // Where nothing on this machine reads it, it stands there to be read, and the film waits.
    if (voice === null) return
    const spoken = new SpeechSynthesisUtterance(slide.description)
    spoken.voice = voice
    spoken.addEventListener('end', () => {
      if (told.value === slide) goOn()
    })
    window.speechSynthesis.speak(spoken)
  }

  watch([visit, playing, wanted], () => {
    if (!wanted.value || !playing.value || visit.value === null) return
    const slide = described.find(({ id }) => id === visit.value?.slide)
    if (slide !== undefined && !done.has(slide.id)) tell(slide)
  })
  watch(wanted, (now) => {
    if (!now) goOn()
  })
  onBeforeUnmount(() => {
    if ('speechSynthesis' in window) window.speechSynthesis.cancel()
  })
  return { described: described.length > 0, wanted, told, goOn }
}

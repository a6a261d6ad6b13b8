import type { Ref } from 'vue'
import { heardBeds } from '@core/playback'
import type { HeardBeds } from '@core/playback'
import { treatmentOf } from '@core/programme'
import type { FilmIndex } from '@core/scene'
import type { Ms, StretchId, VoiceTreatment } from '@core/model'
import { assetUrl, treatedUrl } from '~/client'
import { MediaBeside } from '~/player'
import { useDressing } from '~/stores/dressing'
import { useTalk } from '~/stores/talk'

/** What a film plays at the moment. */
export interface PlayedMoment {
  readonly playing: boolean
  /** How fast the film is played. */
  readonly speed: number
  readonly at: Ms
  /** Of the piece. */
  readonly number: number
  /** The voice that is heard: where in its recording, how fast, and how loud; null: none. */
  readonly voice: { readonly stretch: StretchId; readonly at: Ms; readonly rate: number; readonly volume: number } | null
}

/** What is left of the recording itself: how loud it is heard, as a share of what it was. */
type Left = number

/** Plays music and tidied voices beside a film's recordings. */
export function useDressedSound(index: Ref<FilmIndex | null>, arrived: () => void) {
  const talk = useTalk()
  const dressing = useDressing()
  const sound = (): HTMLAudioElement => new Audio()
  const music = new MediaBeside(sound, arrived, () => {
    dressing.trouble = 'This music cannot be played here. In the file it is heard.'
  })
  const voices = new MediaBeside(
    sound,
    () => {
      dressing.preparing = false
      arrived()
    },
    () => {
      dressing.preparing = false
      dressing.trouble = 'The tidied voice could not be made, so the recording is heard. Change what is done to it, or try again later.'
    },
  )
  const beds = computed<HeardBeds>(() => (index.value === null ? () => [] : heardBeds(index.value, talk.film?.peaks ?? {})))

  function treatmentAt(number: number): VoiceTreatment | null {
    const programme = index.value?.film.programme
    const piece = programme?.pieces[number]
    return programme === undefined || piece?.kind !== 'recorded' ? null : treatmentOf(programme, piece)
  }

  /** The tidied voice is heard in place of the recording once it is there. */
  function followVoice({ playing, voice, number }: PlayedMoment): Left {
    const treatment = voice === null ? null : treatmentAt(number)
    if (voice === null || treatment === null) {
      voices.follow([], false, 1)
      return 1
    }
    const url = treatedUrl(voice.stretch, treatment)
    const heard = voices.isReady(url) && !dressing.asRecorded
    voices.follow([{ key: url, url, at: voice.at, volume: heard ? voice.volume : 0 }], playing, voice.rate)
    dressing.preparing = !voices.isReady(url) && dressing.trouble === null
    return heard ? 0 : 1
  }

  /** @returns how much of the recording's own sound is heard */
  function follow(moment: PlayedMoment): Left {
    const heard = beds.value(moment.at)
    music.follow(
      heard.map(({ key, file, at, volume }) => ({ key, url: assetUrl(talk.talk?.id ?? '', file), at, volume })),
      moment.playing,
      moment.speed,
    )
    const hushed = heard.some(({ instead }) => instead)
    const voice = moment.voice === null ? null : { ...moment.voice, volume: hushed ? 0 : moment.voice.volume }
    return followVoice({ ...moment, voice }) * (hushed ? 0 : 1)
  }

  onBeforeUnmount(() => {
    music.release()
    voices.release()
  })
  return { follow }
}

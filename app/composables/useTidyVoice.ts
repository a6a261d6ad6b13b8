import type { Ref } from 'vue'
import { UNTREATED } from '@core/model'
import type { StretchId, VoiceTreatment } from '@core/model'
import { heardTimes, isUntreated } from '@core/programme'
import type { Visit } from '@core/programme'
import { useDressing } from '~/stores/dressing'
import { useTalk } from '~/stores/talk'

/** Whose voice is meant: that of the visit that is on, of all of its take, or of the whole talk. */
export type VoiceScope = 'visit' | 'take' | 'talk'

/** What is done to a voice, and what is proposed for it. */
export function useTidyVoice(visit: Ref<Visit | null>) {
  const talk = useTalk()
  const dressing = useDressing()
  const scope = ref<VoiceScope>('talk')

  const stretchesIn = (one: Visit | null): readonly StretchId[] => {
    const pieces = one === null ? talk.programme.pieces : talk.programme.pieces.slice(...one.pieces)
    return [...heardTimes({ pieces }).keys()]
  }
  /** Recordings that are meant. */
  const stretches = computed<readonly StretchId[]>(() => {
    if (scope.value === 'talk') return stretchesIn(null)
    const own = stretchesIn(visit.value)
    if (scope.value === 'visit') return own
    const takes = new Set(dressing.voices?.filter(({ stretch }) => own.includes(stretch)).map(({ take }) => take))
    return dressing.voices?.filter(({ take }) => takes.has(take)).map(({ stretch }) => stretch) ?? own
  })
  const measured = computed(() => dressing.voices?.filter(({ stretch }) => stretches.value.includes(stretch)) ?? null)

  /** What would help: of several recordings what would help any of them. */
  const proposed = computed<VoiceTreatment | null>(() => {
    if (measured.value === null || measured.value.length === 0) return null
    const all = measured.value.map((one) => one.proposed)
    const some = (of: (one: VoiceTreatment) => boolean): boolean => all.some(of)
    return {
      noise: all.find(({ noise }) => noise !== null)?.noise ?? null,
      hum: all.find(({ hum }) => hum !== null)?.hum ?? null,
      rumble: some(({ rumble }) => rumble),
      sibilance: some(({ sibilance }) => sibilance),
      level: some(({ level }) => level),
    }
  })
  const now = computed<VoiceTreatment>(() => {
    const own = scope.value === 'visit' && visit.value !== null ? dressing.treatmentOfVisit(visit.value.id) : null
    const [first] = stretches.value
    return own ?? (first === undefined ? null : dressing.treatmentOfStretch(first)) ?? UNTREATED
  })
  const isTidy = computed(() => !isUntreated(now.value))
  /** Where nothing needs to be done noise is taken down all the same, by who asks for it. */
  const usual = computed<VoiceTreatment>(() =>
    proposed.value === null || isUntreated(proposed.value) ? { ...UNTREATED, noise: 'learned', rumble: true } : proposed.value,
  )

  async function set(treatment: VoiceTreatment): Promise<void> {
    if (scope.value === 'visit') {
      if (visit.value !== null) await dressing.treat([], [visit.value.id], treatment)
    } else await dressing.treat(stretches.value, [], isUntreated(treatment) ? null : treatment)
  }
  const change = (fields: Partial<VoiceTreatment>): Promise<void> => set({ ...now.value, ...fields })
  const tidy = (on: boolean): Promise<void> => set(on ? usual.value : UNTREATED)

  return { scope, measured, proposed, now, isTidy, tidy, change, heard: computed(() => stretches.value.length > 0) }
}

import type { Ref } from 'vue'
import type { ByRecording, StretchId, VisitId } from '@core/model'
import type { Visit } from '@core/programme'
import { useTalk } from '~/stores/talk'

export const FACE_SCOPES = [
  { value: 'talk', label: 'All of the talk' },
  { value: 'visit', label: 'This visit' },
] as const
export type FaceScope = (typeof FACE_SCOPES)[number]['value']

/** What an edit says, and of what. */
interface Saying<Value> {
  readonly stretches: readonly StretchId[]
  readonly visits: readonly VisitId[]
  /** null: nothing. */
  readonly value: Value | null
}

/** Whose face is meant: that of the whole talk, or that of the visit that is on. */
export function useFaceScope(visit: Ref<Visit | null>) {
  const talk = useTalk()
  const scope = ref<FaceScope>('talk')
  const camerasOf = (one: Visit | null): readonly StretchId[] => {
    const pieces = one === null ? talk.programme.pieces : talk.programme.pieces.slice(...one.pieces)
    return [...new Set(pieces.flatMap((piece) => (piece.kind === 'recorded' && piece.camera !== null ? [piece.camera.stretch] : [])))]
  }
  /** All recordings of faces. */
  const stretches = computed(() => camerasOf(null))
  /** Those that are meant. */
  const concerned = computed(() => (scope.value === 'visit' ? camerasOf(visit.value) : stretches.value))

  /** What is said of what is meant; null: nothing. */
  function saidOf<Value>({ visits, stretches }: ByRecording<Value>): Value | null {
    const own = scope.value === 'visit' && visit.value !== null ? visits[visit.value.id] : undefined
    const [first] = concerned.value
    return own ?? (first === undefined ? undefined : stretches[first]) ?? null
  }

  /**
   * What an edit says of what is meant; null: no visit is on. Of recordings nothing is said where that changes nothing; a visit may differ
   * from its recording.
   */
  function saying<Value>(value: Value, isNothing: boolean): Saying<Value> | null {
    if (scope.value === 'talk') return { stretches: stretches.value, visits: [], value: isNothing ? null : value }
    return visit.value === null ? null : { stretches: [], visits: [visit.value.id], value }
  }
  return { scope, stretches, concerned, saidOf, saying }
}

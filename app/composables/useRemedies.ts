import type { Ref } from 'vue'
import { unreachable } from '@core/model'
import type { Recipe } from '@core/model'
import type { Remedy } from '@core/rules'
import type { HandIn } from './useHandIn'
import { useTalk } from '~/stores/talk'

/** A leaf on which rules are put right. */
export interface RemedyLeaf {
  readonly recipe: () => Recipe
  readonly hand: HandIn
  /** Has a file made by a recipe, or the recipe changed. */
  readonly emit: ((event: 'make', recipe: Recipe) => void) & ((event: 'change', recipe: Recipe) => void)
  /** What is asked besides the file. */
  readonly fields: Ref<{ readonly focus: (what: 'fields' | 'cover') => void } | null>
}

/** Puts right what rules are not kept in, here or at another station. */
export function useRemedies({ recipe, hand, emit, fields }: RemedyLeaf) {
  const talk = useTalk()
  const router = useRouter()
  const station = (name: string, query: Readonly<Record<string, string>> = {}): Promise<unknown> =>
    router.push({ path: `/talks/${talk.talk?.id ?? ''}/${name}`, query: { ...query } })

  async function put(remedy: Remedy): Promise<void> {
    switch (remedy.kind) {
      case 'recipe':
        if (hand.file.value !== null) emit('make', remedy.recipe)
        else emit('change', remedy.recipe)
        break
      case 'make':
        emit('make', recipe())
        break
      case 'rename':
        await hand.rename(remedy.name)
        break
      case 'fit':
        await station('review', { panel: 'fit' })
        break
      case 'record':
        await station('lectern')
        break
      case 'listen':
        await station('review', { panel: 'words' })
        break
      case 'language':
        await talk.change({ language: remedy.language })
        break
      case 'fill-in':
        fields.value?.focus('fields')
        break
      case 'cover':
        fields.value?.focus('cover')
        break
      case 'none':
        break
      default:
        unreachable(remedy)
    }
  }
  return { put, station }
}

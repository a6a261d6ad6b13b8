import { unreachable } from '@core/model'
import type { Recipe } from '@core/model'
import type { Remedy } from '@core/rules'
import type { HandIn } from './useHandIn'
import { useTalk } from '~/stores/talk'

/** What is done when somebody presses the button beside a rule. */
export interface RemedyWays {
  readonly recipe: () => Recipe
  readonly hand: HandIn
  /** Makes a file by a recipe, or only changes the recipe. */
  readonly make: (recipe: Recipe) => void
  readonly change: (recipe: Recipe) => void
  readonly focus: (what: 'fields' | 'cover') => void
}

/** Puts right what rules are not kept in, here or at another station. */
export function useRemedies({ recipe, hand, make, change, focus }: RemedyWays) {
  const talk = useTalk()
  const router = useRouter()
  const station = (name: string, query: Readonly<Record<string, string>> = {}): Promise<unknown> =>
    router.push({ path: `/talks/${talk.talk?.id ?? ''}/${name}`, query: { ...query } })

  async function put(remedy: Remedy): Promise<void> {
    switch (remedy.kind) {
      case 'recipe':
        if (hand.file.value !== null) make(remedy.recipe)
        else change(remedy.recipe)
        break
      case 'make':
        make(recipe())
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
        focus('fields')
        break
      case 'cover':
        focus('cover')
        break
      case 'none':
        break
      default:
        unreachable(remedy)
    }
  }
  return { put, station }
}

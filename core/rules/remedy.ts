import { dequal } from 'dequal'
import { primaryOf } from '@core/language'
import { unreachable } from '@core/model'
import type { Recipe, Size } from '@core/model'
import { wantedName } from './judge'
import type { RuleLine } from './judge'
import { recipeByRules } from './recipe-by-rules'
import type { Rules } from './rules'

/** What can be done where a rule is not kept. */
export type Remedy =
  /** The file is made by another recipe. */
  | { readonly kind: 'recipe'; readonly recipe: Recipe }
  /** It is made by the recipe that there is. */
  | { readonly kind: 'make' }
  | { readonly kind: 'rename'; readonly name: string }
  /** Bring the talk to its length, in Review. */
  | { readonly kind: 'fit' }
  /** Say more, at the Lectern. */
  | { readonly kind: 'record' }
  /** Have what is said listened to, in Review. */
  | { readonly kind: 'listen' }
  /** Say that the talk is in another language than was thought. */
  | { readonly kind: 'language'; readonly language: string }
  | { readonly kind: 'fill-in' }
  | { readonly kind: 'cover' }
  /** Nothing that could be done here. */
  | { readonly kind: 'none' }

/** What a remedy goes by. */
export interface RemedyFor {
  readonly rules: Rules
  readonly recipe: Recipe
  /** Of the deck. */
  readonly shape: Size
  /** Bytes that the file has or is reckoned to have. */
  readonly bytes: number
  /** Whether the file is there already. */
  readonly made: boolean
  /** Language of what is said; null: not known. */
  readonly words: string | null
  readonly fields: Readonly<Record<string, string>>
  /** Whether it is too long, rather than too short. */
  readonly tooLong: boolean
}

/** Makes a file anew whose recipe would do, or changes the recipe. */
function byRecipe({ rules, recipe, shape, bytes, made }: RemedyFor): Remedy {
  const better = recipeByRules(rules, recipe, shape, bytes)
  if (!dequal(better, recipe)) return { kind: 'recipe', recipe: better }
  return made ? { kind: 'make' } : { kind: 'none' }
}

function forWords(language: string | undefined, { words }: RemedyFor): Remedy {
  return words === null || language === undefined ? { kind: 'listen' } : { kind: 'language', language }
}

/** What puts a rule right that is not kept. */
export function remedyOf({ kind, state }: RuleLine, of: RemedyFor): Remedy {
  const { rules } = of
  switch (kind) {
    case 'length':
      return { kind: of.tooLong ? 'fit' : 'record' }
    case 'size':
      return state === 'open' ? { kind: 'make' } : byRecipe(of)
    case 'format':
    case 'lines':
    case 'shape':
    case 'rate':
    case 'loudness':
      return byRecipe(of)
    case 'captions':
      return of.words === null || rules.captions?.where !== 'inside' ? forWords(rules.captions?.language, of) : captionsInside(of)
    case 'transcript':
      return forWords(rules.transcript?.language, of)
    case 'cover':
      return { kind: 'cover' }
    case 'fields':
      return { kind: 'fill-in' }
    case 'name':
      return nameRemedy(state, of)
    case 'until':
    case 'tries':
      return { kind: 'none' }
    default:
      return unreachable(kind)
  }
}

/** Captions that are known and not in the file: it was made before they were, or without them. */
function captionsInside(of: RemedyFor): Remedy {
  const language = of.rules.captions?.language
  const other = language !== undefined && of.words !== null && primaryOf(language) !== primaryOf(of.words)
  return other ? { kind: 'language', language } : byRecipe(of)
}

function nameRemedy(state: RuleLine['state'], of: RemedyFor): Remedy {
  // Its fields are a rule of their own.
  if (state === 'open') return { kind: 'none' }
  const name = wantedName(of.rules, of.fields)
  return of.made && name !== null ? { kind: 'rename', name } : byRecipe(of)
}

import type { Remedy } from '@core/rules'
import { languageName } from '~/words'

/** What the button beside a rule says; null: there is nothing to be done here. @param made whether the file is there already */
export function remedyWords(remedy: Remedy, made: boolean): string | null {
  switch (remedy.kind) {
    case 'recipe':
      return made ? 'Put it right and make it again' : 'Put it right'
    case 'make':
      return made ? 'Make it again' : 'Make it and see'
    case 'rename':
      return 'Call it that'
    case 'fit':
      return 'Bring it to its length'
    case 'record':
      return 'Record more'
    case 'listen':
      return 'See what was said'
    case 'language':
      return `It is in ${languageName(remedy.language)}`
    case 'fill-in':
      return 'Fill in'
    case 'cover':
      return 'Choose a slide'
    case 'none':
      return null
  }
}

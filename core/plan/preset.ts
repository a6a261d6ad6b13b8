import { dequal } from 'dequal'
import { ALL_OF_IT, USUAL_RECIPE } from '@core/model'
import type { Ms, Preset, Recipe } from '@core/model'

export interface NamedPreset {
  readonly name: string
  readonly preset: Preset
}

const { fields: _, part: __, ...usual } = USUAL_RECIPE

/** Presets that everybody has. */
export const PRESETS: readonly NamedPreset[] = [
  { name: 'class page', preset: { ...usual, lines: 720, name: '{talk}', limit: 'none' } },
  { name: 'conference upload', preset: { ...usual, quality: 'fine', name: '{paper}-{surname}', limit: 'hold' } },
  { name: 'to listen to', preset: { ...usual, format: 'mp3', name: '{talk}', limit: 'none' } },
]

/** What of a recipe is kept for other talks. */
export function presetOf({ part: _part, fields: _fields, limit, ...rest }: Recipe): Preset {
  return { ...rest, limit: limit.kind }
}

/**
 * A recipe by a preset. What belongs to the talk stays: what was said for fields of its name, and its limit.
 * @param limit of the talk; null: it has none, and none is held
 */
export const withPreset = (recipe: Recipe, preset: Preset, limit: Ms | null): Recipe => ({
  ...preset,
  part: ALL_OF_IT,
  fields: recipe.fields,
  limit: preset.limit === 'none' || limit === null ? { kind: 'none' } : { kind: preset.limit, limit },
})

/** Whether a recipe says what a preset says. */
export const isPreset = (recipe: Recipe, preset: Preset, limit: Ms | null): boolean =>
  dequal(withPreset(recipe, preset, limit), { ...recipe, part: ALL_OF_IT })

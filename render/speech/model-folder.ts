import { readFile, readdir } from 'node:fs/promises'
import { join } from 'node:path'
import { primaryOf } from '@core/language'

/** What the recogniser is told of a model, in the words of its package (sherpa-onnx, `modelConfig`). */
export interface OnnxModelConfig {
  readonly tokens: string
  readonly transducer?: { readonly encoder: string; readonly decoder: string; readonly joiner: string }
  readonly whisper?: { readonly encoder: string; readonly decoder: string; readonly language: string; readonly task: 'transcribe' }
  readonly nemoCtc?: { readonly model: string }
  readonly senseVoice?: { readonly model: string; readonly useInverseTextNormalization: 1 }
}

/** A model that an operator put on this server. */
export interface SpeechModel {
  /** What it is used with for a language. @param language BCP 47 tag */
  readonly configFor: (language: string) => OnnxModelConfig
  /** Languages that it understands, as primary tags; null: any. */
  readonly languages: readonly string[] | null
}

/** A folder that holds no model that can be used; the sentence is for the operator. */
export class WrongModelFolder extends Error {}

/** File in a model's folder that says what it is, where its files do not. */
const ABOUT = 'model.json'

interface About {
  readonly kind: string | null
  readonly languages: readonly string[] | null
}

function aboutOf(folder: string, text: string): About {
  let value: unknown
  try {
    value = JSON.parse(text)
  } catch {
    throw new WrongModelFolder(`${join(folder, ABOUT)} is no JSON.`)
  }
  const { kind = null, languages = null } = (typeof value === 'object' && value !== null ? value : {}) as Readonly<Record<string, unknown>>
  const isList = (list: unknown): list is readonly string[] => Array.isArray(list) && list.every((one) => typeof one === 'string')
  if (kind !== null && typeof kind !== 'string') throw new WrongModelFolder(`In ${join(folder, ABOUT)}, "kind" is not a word.`)
  if (languages !== null && !isList(languages))
    throw new WrongModelFolder(`In ${join(folder, ABOUT)}, "languages" is not a list of language tags.`)
  return { kind, languages: languages === null ? null : languages.map(primaryOf) }
}

/**
 * Reads which model a folder holds: a transducer (`*encoder*.onnx`, `*decoder*.onnx`, `*joiner*.onnx`), one that writes text from sound
 * (`*encoder*.onnx`, `*decoder*.onnx`), or one file (`*.onnx`) whose kind `model.json` says; and always `*tokens.txt`. Of two that differ
 * by their precision the smaller (`int8`) is taken.
 * @throws WrongModelFolder saying what is missing
 */
export async function speechModelIn(folder: string): Promise<SpeechModel> {
  const files = await readdir(folder).catch(() => {
    throw new WrongModelFolder(`There is no folder ${folder} that can be read.`)
  })
  const about = files.includes(ABOUT) ? aboutOf(folder, await readFile(join(folder, ABOUT), 'utf8')) : { kind: null, languages: null }
  const find = (pattern: RegExp): string | null => {
    const found = files.filter((file) => pattern.test(file)).sort()
    const name = found.find((file) => file.includes('int8')) ?? found[0]
    return name === undefined ? null : join(folder, name)
  }
  const tokens = find(/tokens\.txt$/)
  if (tokens === null) throw new WrongModelFolder(`The folder ${folder} holds no tokens.txt.`)
  const [encoder, decoder, joiner] = [find(/encoder.*\.onnx$/), find(/decoder.*\.onnx$/), find(/joiner.*\.onnx$/)]
  const { languages } = about
  if (encoder !== null && decoder !== null && joiner !== null)
    return { languages, configFor: () => ({ tokens, transducer: { encoder, decoder, joiner } }) }
  if (encoder !== null && decoder !== null)
    return {
      languages,
      configFor: (language) => ({ tokens, whisper: { encoder, decoder, language: primaryOf(language), task: 'transcribe' } }),
    }
  if (encoder !== null) throw new WrongModelFolder(`The folder ${folder} holds an encoder and no decoder.`)
  const model = find(/\.onnx$/)
  if (model === null) throw new WrongModelFolder(`The folder ${folder} holds no .onnx file.`)
  return { languages, configFor: oneFile(tokens, model, about.kind ?? 'nemoCtc', join(folder, ABOUT)) }
}

/** What a model of one file is used with. @param said where its kind is said */
function oneFile(tokens: string, model: string, kind: string, said: string): SpeechModel['configFor'] {
  switch (kind) {
    case 'nemoCtc':
      return () => ({ tokens, nemoCtc: { model } })
    case 'senseVoice':
      return () => ({ tokens, senseVoice: { model, useInverseTextNormalization: 1 } })
    default:
      throw new WrongModelFolder(`${said} names the kind “${kind}”; nemoCtc and senseVoice are known.`)
  }
}

/** Whether a model understands a language. @param language BCP 47 tag */
export const speaks = ({ languages }: SpeechModel, language: string): boolean => languages?.includes(primaryOf(language)) ?? true

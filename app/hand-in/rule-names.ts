import type { RuleKind } from '@core/rules'

/** What each thing that rules ask for is called in a list. */
export const RULE_NAMES: Readonly<Record<RuleKind, string>> = {
  length: 'Length',
  format: 'Kind of file',
  lines: 'Lines',
  shape: 'Shape',
  rate: 'Frames',
  loudness: 'Loudness',
  size: 'Size',
  captions: 'Captions',
  transcript: 'Transcript',
  cover: 'Cover',
  fields: 'Fields',
  name: 'Name',
  until: 'Last day',
  tries: 'Tries',
}

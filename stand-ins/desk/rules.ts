import type { Rules } from '@core/rules'

/** What the desk of a made-up meeting accepts. */
export const DESK_RULES: Rules = {
  kind: 'talk-rules',
  version: 1,
  name: "Swift Counters' Autumn Meeting",
  about: 'Recorded talks for the meeting in the old rope works: ten minutes at most, seen on one large screen.',
  length: { least: 5, most: 600 },
  bytes: 200_000_000,
  containers: ['mp4'],
  videoCodecs: ['h264'],
  audioCodecs: ['aac'],
  lines: { least: 720, most: 1080 },
  shape: { width: 16, height: 9 },
  rates: [25, 30],
  loudness: { least: -19, most: -13 },
  fileName: '{paper}-{surname}',
  captions: { where: 'either', language: 'en' },
  transcript: { language: 'en' },
  cover: { width: 1280, height: 720 },
  fields: [
    { key: 'paper', label: 'Paper', signs: 'digits', length: { least: 1, most: 4 } },
    { key: 'surname', label: 'Surname', length: { least: 1, most: 40 } },
  ],
  tries: 3,
}

import { expect, it } from 'vitest'
import { encoderArgs } from './encoder'
import type { Coding } from './encoder'
import { settingOf } from './segment-setting'

const SIZE = { width: 1280, height: 720 }
const CODING: Coding = { format: 'mp4', crf: 22, most: null }

it('tells apart segments that come out otherwise, by all that their encoder is told', () => {
  const settings = [
    settingOf(SIZE, SIZE, 30, CODING),
    settingOf({ width: 640, height: 360 }, SIZE, 30, CODING),
    settingOf(SIZE, { width: 960, height: 720 }, 30, CODING),
    settingOf(SIZE, SIZE, 25, CODING),
    settingOf(SIZE, SIZE, 30, { ...CODING, crf: 22.5 }),
    settingOf(SIZE, SIZE, 30, { ...CODING, most: 900 }),
    settingOf(SIZE, SIZE, 30, { ...CODING, format: 'webm' }),
  ]
  expect(new Set(settings).size).toBe(settings.length)
  expect(settingOf({ ...SIZE }, { ...SIZE }, 30, { ...CODING })).toBe(settings[0])
  for (const argument of encoderArgs(CODING, 30, 1)) expect(settings[0]).toContain(JSON.stringify(argument))
})

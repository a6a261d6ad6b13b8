import { describe, expect, it } from 'vitest'
import { PEAKS_A_SECOND } from '@core/voice'
import { timedByPauses } from './timed-by-pauses'
import { writtenText } from './written-text'

/** A voice: loud for some ms, still for some, and so on. */
const voice = (...parts: readonly number[]): readonly number[] =>
  parts.flatMap((ms, n) => Array.from({ length: (ms / 1000) * PEAKS_A_SECOND }, () => (n % 2 === 0 ? 120 : 1)))

describe('notes laid on a voice by its pauses', () => {
  const text = writtenText('Das Wasser steigt. Um zwölf Uhr ist Hochwasser im Hafen. Gut.', 'de')

  it('begin and end sentences where somebody pauses', () => {
    const peaks = voice(1500, 600, 3000, 600, 500, 500)
    const { words } = timedByPauses(peaks, [text], [{ from: 0, until: 6700, text: 0 }])
    const begins = (word: string): number | undefined => words.find(({ text: one }) => one === word)?.from
    expect(words.map(({ text: one }) => one).join(' ')).toBe(text.words.join(' '))
    expect([begins('Das'), begins('Um'), begins('Gut.')]).toEqual([0, 2100, 5700])
    expect(words.every(({ sure, source }) => sure < 0.5 && source === 'written')).toBe(true)
  })

  it.each([
    ['ja', '今夜の港は静かです。ロープを三回まわしてください。', ''],
    ['ar', 'الميناء هادئ الليلة. لف الحبل ثلاث مرات.', ' '],
  ])('are laid so in any script: %s', (language, notes, space) => {
    const { words } = timedByPauses(voice(3000, 600, 3000), [writtenText(notes, language)], [{ from: 0, until: 6600, text: 0 }])
    expect(words.map(({ text: one }) => one).join(space)).toBe(notes)
    expect(words.some(({ from }) => from === 3600)).toBe(true)
    expect(words.at(-1)?.until).toBe(6600)
  })

  it('take their share of the time where nobody pauses', () => {
    const { words } = timedByPauses(voice(6000), [text], [{ from: 0, until: 6000, text: 0 }])
    expect(words.at(-1)?.until).toBe(6000)
    expect(words.every(({ from, until }, n) => until > from && from >= (words[n - 1]?.from ?? 0))).toBe(true)
  })

  it('are said once, on the slide they belong to, and not at all where nobody speaks', () => {
    const shown = [
      { from: 0, until: 3000, text: 0 },
      { from: 3000, until: 6000, text: 0 },
    ]
    expect(timedByPauses(voice(6000), [text], shown).words).toHaveLength(text.words.length)
    expect(
      timedByPauses(
        Array.from({ length: 120 }, () => 0),
        [text],
        shown.slice(0, 1),
      ).words,
    ).toEqual([])
  })
})

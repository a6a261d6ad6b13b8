import { start } from '@render/process'

/** Phones of the recogniser's dictionary for signs of the International Phonetic Alphabet; longer ones are looked for first. */
const PHONES: readonly (readonly [string, string])[] = [
  ['tʃ', 'CH'],
  ['dʒ', 'JH'],
  ['aɪɚ', 'AY ER'],
  ['aɪə', 'AY AH'],
  ['aʊ', 'AW'],
  ['aɪ', 'AY'],
  ['eɪ', 'EY'],
  ['oʊ', 'OW'],
  ['əʊ', 'OW'],
  ['ɔɪ', 'OY'],
  ['iə', 'IY AH'],
  ['ɪə', 'IH R'],
  ['ʊə', 'UH R'],
  ['eə', 'EH R'],
  ['əl', 'AH L'],
  ['ɜː', 'ER'],
  ['ɑː', 'AA'],
  ['ɔː', 'AO'],
  ['oː', 'AO'],
  ['uː', 'UW'],
  ['iː', 'IY'],
  ['l̩', 'AH L'],
  ['n̩', 'AH N'],
  ['m̩', 'AH M'],
  ['p', 'P'],
  ['b', 'B'],
  ['t', 'T'],
  ['d', 'D'],
  ['k', 'K'],
  ['ɡ', 'G'],
  ['g', 'G'],
  ['f', 'F'],
  ['v', 'V'],
  ['θ', 'TH'],
  ['ð', 'DH'],
  ['s', 'S'],
  ['z', 'Z'],
  ['ʃ', 'SH'],
  ['ʒ', 'ZH'],
  ['h', 'HH'],
  ['x', 'K'],
  ['m', 'M'],
  ['n', 'N'],
  ['ŋ', 'NG'],
  ['l', 'L'],
  ['ɬ', 'L'],
  ['ɹ', 'R'],
  ['r', 'R'],
  ['w', 'W'],
  ['j', 'Y'],
  ['ɾ', 'D'],
  ['ʔ', 'T'],
  ['æ', 'AE'],
  ['a', 'AA'],
  ['ɑ', 'AA'],
  ['ɒ', 'AA'],
  ['ɐ', 'AH'],
  ['ʌ', 'AH'],
  ['ə', 'AH'],
  ['ɚ', 'ER'],
  ['ɜ', 'ER'],
  ['ɛ', 'EH'],
  ['e', 'EH'],
  ['ɪ', 'IH'],
  ['i', 'IY'],
  ['ᵻ', 'IH'],
  ['ɨ', 'IH'],
  ['ɔ', 'AO'],
  ['o', 'OW'],
  ['ʊ', 'UH'],
  ['u', 'UW'],
  ['y', 'Y UW'],
  ['ø', 'ER'],
]
/** In ms, for all words of a stretch. */
const TIME = 60_000
const MEMORY_BYTES = 300 * 1024 ** 2

/** Signs of a pronunciation as phones; signs that say nothing of the sound itself are passed over. */
function phonesOf(signs: string): string {
  const out: string[] = []
  let rest = signs
  while (rest !== '') {
    const [sign, phone] = PHONES.find(([known]) => rest.startsWith(known)) ?? [[...rest][0] ?? ' ', '']
    if (phone !== '') out.push(phone)
    rest = rest.slice(sign.length)
  }
  return out.join(' ')
}

/**
 * How words sound by a synthesiser's rules, for those that no dictionary has.
 * @returns phones as the recogniser's dictionary has them; a word that cannot be said is missing
 */
export async function pronounce(words: readonly string[], signal?: AbortSignal): Promise<ReadonlyMap<string, string>> {
  if (words.length === 0) return new Map()
  // A word a line: what begins with a hyphen would be an option as an argument, and is text here.
  const { child, done } = start('espeak-ng', ['-q', '--ipa', '-v', 'en-us', '--stdin'], {
    signal,
    hold: { time: TIME, memory: MEMORY_BYTES },
  })
  // A word a paragraph. On standard input a word that begins with a hyphen is text, not an option.
  child.stdin?.end(`${words.join('\n\n')}\n`)
  const { stdout } = await done
  const lines = stdout.toString().split('\n')
  return new Map(
    words.flatMap((word, n) => {
      const phones = phonesOf((lines[n] ?? '').trim())
      return phones === '' ? [] : [[word, phones] as const]
    }),
  )
}

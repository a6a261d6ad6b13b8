/** One thing that was looked at. `standIn`: it is missing, and something else does its work. */
export interface SelfTestLine {
  readonly name: string
  readonly state: 'good' | 'standIn' | 'bad'
  readonly say: string
}

export interface SelfTestPart {
  readonly title: string
  readonly lines: readonly SelfTestLine[]
}

const MARKS: Readonly<Record<SelfTestLine['state'], string>> = { good: 'ok', standIn: 'stand-in', bad: 'WRONG' }

/** What was found as plain text, to be sent to whoever helps. @param agent what the browser calls itself @param at when, in words */
export function reportText(parts: readonly SelfTestPart[], agent: string, at: string): string {
  const wrong = parts.flatMap(({ lines }) => lines).filter(({ state }) => state === 'bad').length
  return [
    `Aisle Talk self-test, ${at}`,
    agent,
    wrong === 0 ? 'Nothing is wrong.' : `${String(wrong)} ${wrong === 1 ? 'thing is' : 'things are'} wrong.`,
    ...parts.flatMap(({ title, lines }) => [
      '',
      title,
      ...lines.map(({ name, state, say }) => `  ${MARKS[state].padEnd(8)}  ${name}: ${say}`),
    ]),
  ].join('\n')
}

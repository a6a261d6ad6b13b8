import type { CallFields } from '@contracts'

/** A call to whoever has its link, over tomorrow, by rules that ask for little. @param change what is to be otherwise */
export const callFields = (change: Partial<CallFields> = {}): CallFields => ({
  title: 'Knots of the harbour',
  asks: 'Show one knot, and say what it holds.',
  rules: { kind: 'talk-rules', version: 1, name: 'Short talks', length: { most: 10 }, lines: { least: 360, most: 480 } },
  until: new Date(Date.now() + 86_400_000).toISOString(),
  late: 'refused',
  faulty: 'refused',
  audience: 'link',
  group: null,
  people: [],
  accounts: false,
  address: 'optional',
  deck: null,
  ...change,
})

import type { Rules } from '@core/rules'
import type { CallFields } from '@contracts'

/** Days until the last one of a new call. */
const DAYS = 14

/** The end of a day so many days from now, as people here keep time. */
export function endOfDay(days: number, now: Date = new Date()): Date {
  const day = new Date(now)
  day.setDate(day.getDate() + days)
  day.setHours(23, 59, 59, 0)
  return day
}

/** Five minutes, small enough for a telephone: what a class is asked for most. */
const FIRST_RULES: Rules = {
  kind: 'talk-rules',
  version: 1,
  name: 'a class page',
  length: { most: 300 },
  containers: ['mp4'],
}

/** What a new call says until somebody says otherwise. */
export const newCall = (now: Date = new Date()): CallFields => ({
  title: '',
  asks: '',
  rules: FIRST_RULES,
  until: endOfDay(DAYS, now).toISOString(),
  late: 'marked',
  faulty: 'refused',
  audience: 'link',
  group: null,
  people: [],
  accounts: false,
  address: 'optional',
  deck: null,
})

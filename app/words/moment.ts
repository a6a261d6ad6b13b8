/** A time of day by the reader's own habits, with the day when it is not today. */
export function moment(iso: string, now: Date = new Date()): string {
  const date = new Date(iso)
  const today = date.toDateString() === now.toDateString()
  return new Intl.DateTimeFormat(
    undefined,
    today ? { hour: 'numeric', minute: '2-digit' } : { day: 'numeric', month: 'short', hour: 'numeric', minute: '2-digit' },
  ).format(date)
}

/** A last moment, with its day of the week. */
export const lastMoment = (iso: string): string =>
  new Intl.DateTimeFormat(undefined, {
    weekday: 'long',
    day: 'numeric',
    month: 'long',
    year: 'numeric',
    hour: 'numeric',
    minute: '2-digit',
  }).format(new Date(iso))

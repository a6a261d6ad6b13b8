/**
 * Makes a load that never runs twice at once: what is asked for while one is under way is done once more after it, so
 * that an older answer never covers a newer one.
 * @param load asks the server and shows what it says
 * @returns settles when an answer that was asked for after the call has been shown
 */
export function oneAtATime(load: () => Promise<void>): () => Promise<void> {
  let running: Promise<void> | null = null
  let next: Promise<void> | null = null
  const run = (): Promise<void> => {
    next = null
    running = load().finally(() => {
      running = null
    })
    return running
  }
  return () => {
    if (next !== null) return next
    if (running === null) return run()
    next = running.then(run, run)
    return next
  }
}

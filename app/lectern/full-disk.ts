/** What is said when this computer has no room left for a recording. */
export const FULL_DISK =
  'This computer has no room left for the recording, so the take was paused. What was said until now is kept; stop here, ' +
  'free some space and go on.'

/** Whether a browser's store refused because its disk is full. */
export const isFullDisk = (error: unknown): boolean => error instanceof DOMException && error.name === 'QuotaExceededError'

/*
 * The window for the audience was opened by the Lectern and has the same origin: what is live is handed over from page to page, since no
 * channel carries it.
 */

const KEY = Symbol.for('aisle-talk.shown-window')

/** Gives a live picture, if one is shown now. */
type GivePicture = () => MediaStreamTrack | null

const sharing = (page: Window): Window & { [KEY]?: GivePicture } => page

/** Lets windows that this page opens see what is live here. @returns what ends that */
export function shareWindow(give: GivePicture): () => void {
  sharing(window)[KEY] = give
  return () => {
    sharing(window)[KEY] = () => null
  }
}

/** What is live at the Lectern that opened this window; null when nothing is, or it was opened otherwise. */
export function windowOfOpener(): MediaStreamTrack | null {
  const opener = window.opener as Window | null
  try {
    return opener === null ? null : (sharing(opener)[KEY]?.() ?? null)
  } catch {
    // It is of another origin by now.
    return null
  }
}

/** Has a media element let go of what it had loaded. */
export function letGo(element: HTMLMediaElement): void {
  element.pause()
  element.removeAttribute('src')
  // What had been fetched is held until something else is loaded.
  element.load()
}

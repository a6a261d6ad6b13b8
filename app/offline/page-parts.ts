/** An element of the page. @throws Error when it is not of that kind: the page was changed */
export function part<Part extends HTMLElement>(id: string, kind: abstract new () => Part): Part {
  const found = document.getElementById(id)
  if (!(found instanceof kind)) throw new Error(`the page has no ${id}`)
  return found
}

/** Buttons that lead to a time, wherever they stand. */
export const timedButtons = (within: ParentNode): readonly { readonly button: HTMLButtonElement; readonly at: number }[] =>
  [...within.querySelectorAll<HTMLButtonElement>('button[data-at]')].map((button) => ({ button, at: Number(button.dataset['at']) }))

/** Says what is wrong, for good. */
export function say(sentence: string): void {
  const trouble = part('trouble', HTMLParagraphElement)
  trouble.textContent = sentence
  trouble.hidden = false
}

/** What stands in the page as JSON; null when it has none. */
export function dataOf<Data>(id: string): Data | null {
  const text = document.getElementById(id)?.textContent ?? null
  // It was written with this script into this page: it is not a border.
  return text === null ? null : (JSON.parse(text) as Data)
}

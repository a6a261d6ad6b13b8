/** Whether a text is an address in the web, by its scheme: any other may do something where it is clicked. */
export const isWebAddress = (text: string): boolean => /^https?:\/\//i.test(text)

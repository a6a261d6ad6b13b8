/** Whether a text is a web address by its scheme (RFC 3986, 3.1). Others, such as `javascript:`, may run code when they are clicked. */
export const isWebAddress = (text: string): boolean => /^https?:\/\//i.test(text)

/** Text as it stands in HTML and XML, between tags and in attributes with double quotes. */
export const escapeMarkup = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;')

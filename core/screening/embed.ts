/** What a page elsewhere holds to show a talk within itself. @param address of the talk's page @param width and height in CSS pixels */
export const embedMarkup = (address: string, width: number, height: number): string =>
  `<iframe src="${address}?embed" width="${String(width)}" height="${String(height)}" style="border: 0" allow="fullscreen" ` +
  'loading="lazy" title="Talk"></iframe>'

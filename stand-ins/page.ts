import escape from 'escape-html'

export { escape }

/** A list of sentences. */
export const listOf = (items: readonly string[], look: string): string =>
  `<ul class="${look}">${items.map((one) => `<li>${escape(one)}</li>`).join('')}</ul>`

/** A page of a service, in its own look. @param body HTML, in which what people wrote is escaped already */
export const pageOf = (title: string, look: string, body: string): string => `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${escape(title)}</title>
<style>
body { margin: 0 auto; padding: 32px 20px 80px; max-width: 720px; font: 17px/1.5 Georgia, serif; }
label { display: grid; gap: 4px; margin: 14px 0; font-weight: bold; }
input, textarea, select { padding: 7px; font: inherit; font-weight: normal; }
button { padding: 9px 22px; font: inherit; cursor: pointer; }
.note { font-size: 15px; opacity: .8; }
video { width: 100%; background: #000; }
${look}
</style>
</head>
<body>
${body}
</body>
</html>
`

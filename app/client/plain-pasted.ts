import DOMPurify from 'dompurify'

/** What of pasted words is kept besides the words: paragraphs, lists, bold and italic. */
const KEPT = ['p', 'br', 'ul', 'ol', 'li', 'b', 'strong', 'i', 'em']

/** Words from elsewhere as they may stand on a slide: without their type, colours, pictures and links. @param html as it was pasted */
export const plainPasted = (html: string): string => DOMPurify.sanitize(html, { ALLOWED_TAGS: KEPT, ALLOWED_ATTR: [], KEEP_CONTENT: true })

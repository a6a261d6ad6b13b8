/** A pattern of `like` for what holds these words: signs that mean something there stand for themselves. */
export const likely = (words: string): string => `%${words.replaceAll(/[\\%_]/g, (sign) => `\\${sign}`)}%`

/** “An” before a vowel, “A” before anything else. */
export const article = (word: string): string => (/^[aeiou]/i.test(word) ? 'An' : 'A')

/** British English sets no comma before the last word. */
const formats = {
  or: new Intl.ListFormat('en-GB', { type: 'disjunction' }),
  and: new Intl.ListFormat('en-GB', { type: 'conjunction' }),
}

/** “A, B or C”. */
export const listed = (words: readonly string[], join: keyof typeof formats = 'or'): string =>
  formats[join].format(words)

import { accenti, casei } from './fold.ts'

/** The words of a text: its runs of letters and digits, case and accents folded, each once. `words_of` splits alike in the database. */
export const wordsOf = (text: string): string[] => [
  ...new Set(
    accenti(casei(text))
      .split(/[^\p{L}\p{Nd}]+/u)
      .filter((word) => word !== ''),
  ),
]

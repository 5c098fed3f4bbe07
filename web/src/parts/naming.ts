/** What somebody is naming as they write: what stands after the last `@` before the caret. */
export interface Naming {
  readonly from: number
  readonly words: string
}

/** The longest name that is looked for, in letters. */
const longest = 40

/** @returns undefined where nobody is being named at the caret */
export function namingAt(text: string, caret: number): Naming | undefined {
  const [found, words] =
    /(?:^|[^\p{L}\p{N}_])@([\p{L}\p{N}\-' ]*)$/u.exec(text.slice(0, caret)) ?? []
  if (found === undefined || words === undefined || words.length > longest) return undefined
  return { from: caret - words.length - 1, words }
}

/** The text with a name where it was being written, and where the caret goes then. */
export function withName(
  text: string,
  { from, words }: Naming,
  name: string,
): { readonly text: string; readonly caret: number } {
  const before = `${text.slice(0, from)}@${name} `
  const after = text.slice(from + 1 + words.length)
  return { text: before + after.replace(/^ /, ''), caret: before.length }
}

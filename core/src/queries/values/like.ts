import { elementAt } from '../../known/index.ts'

type Part =
  | { readonly kind: 'run' }
  | { readonly kind: 'one' }
  | { readonly kind: 'char'; readonly char: string }

const patterns = new Map<string, readonly Part[] | null>()

/**
 * Whether a text matches a LIKE pattern: `%` any run, `_` one code point, `\` takes the next character as it is.
 * Takes at most text × pattern steps: a failed run is only ever retried from the last `%`.
 *
 * @returns null, that is unknown, for a pattern that ends in a lone backslash: it escapes nothing
 */
export function like(text: string, pattern: string): boolean | null {
  let parts = patterns.get(pattern)
  if (parts === undefined) {
    parts = compile(pattern)
    if (patterns.size > 500) patterns.clear()
    patterns.set(pattern, parts)
  }
  return parts && matches([...text], parts)
}

/** Whether a LIKE pattern ends in a backslash that escapes nothing. */
export const endsInEscape = (pattern: string): boolean =>
  (/\\*$/.exec(pattern)?.[0].length ?? 0) % 2 === 1

function compile(pattern: string): Part[] | null {
  if (endsInEscape(pattern)) return null
  const parts: Part[] = []
  const chars = [...pattern]
  for (let at = 0; at < chars.length; at += 1) {
    const char = elementAt(chars, at)
    if (char === '%') parts.push({ kind: 'run' })
    else if (char === '_') parts.push({ kind: 'one' })
    else parts.push({ kind: 'char', char: char === '\\' ? elementAt(chars, ++at) : char })
  }
  return parts
}

function matches(chars: readonly string[], parts: readonly Part[]): boolean {
  let [at, next] = [0, 0]
  let run: { after: number; from: number } | undefined
  while (at < chars.length) {
    const part = parts[next]
    if (part?.kind === 'run') {
      next += 1
      run = { after: next, from: at }
    } else if (part && (part.kind === 'one' || part.char === chars[at])) {
      at += 1
      next += 1
    } else if (run) {
      run.from += 1
      at = run.from
      next = run.after
    } else return false
  }
  return parts.slice(next).every((part) => part.kind === 'run')
}

import { RE2JS } from 're2js'

/** A pattern that a whole text must match, or why there is none. */
export type Pattern =
  | { readonly ok: true; readonly matches: (text: string) => boolean }
  | { readonly ok: false; readonly message: string }

const known = new Map<string, Pattern>()
const mostKnown = 1000

/**
 * Reads a regular expression in the syntax of RE2, whose matching takes time in proportion to the text whatever the expression:
 * it has no references back and does not look around.
 */
export function patternOf(expression: string): Pattern {
  const before = known.get(expression)
  if (before) return before
  const pattern = compiled(expression)
  if (known.size >= mostKnown) known.clear()
  known.set(expression, pattern)
  return pattern
}

function compiled(expression: string): Pattern {
  try {
    const program = RE2JS.compile(expression)
    return { ok: true, matches: (text) => program.matches(text) }
  } catch (error) {
    const reason = String(error instanceof Error ? error.message : error).replace(
      /^error parsing regexp: /,
      '',
    )
    const looks = /\(\?(?:<?[=!])|\\[1-9]|\\k</.test(expression)
    return {
      ok: false,
      message: looks
        ? 'it looks around or refers back, which could take very long on some texts'
        : reason,
    }
  }
}

/** What can part the cells of a line. */
export const separators = [',', ';', '\t', '|'] as const
export type Separator = (typeof separators)[number]

/** how many lines are looked at */
const looked = 30

/** How often a sign stands outside of quotes in each of the first lines. */
function countsIn(text: string, sign: string): number[] {
  const counts: number[] = []
  let signs = 0
  let isQuoted = false
  for (const char of text) {
    if (char === '"') isQuoted = !isQuoted
    else if (isQuoted) continue
    else if (char === sign) signs += 1
    else if (char === '\n') {
      counts.push(signs)
      if (counts.length === looked) return counts
      signs = 0
    }
  }
  // The last line may end before its end; where it is the only one, it is all there is.
  return counts.length > 0 ? counts : [signs]
}

/** The sign that parts the cells: the one that stands equally often in most lines, and most often of those. A comma where none does. */
export function detectSeparator(text: string): Separator {
  const scores = separators.map((sign) => {
    const [first = 0, ...others] = countsIn(text, sign)
    const alike = others.filter((count) => count === first).length / Math.max(1, others.length)
    return { sign, score: first === 0 ? 0 : (others.length === 0 ? 1 : alike) * 1000 + first }
  })
  const best = scores.reduce((entry, other) => (other.score > entry.score ? other : entry))
  return best.score === 0 ? ',' : best.sign
}

import { elementAt } from '../known/index.ts'

/**
 * Edits (insert, delete, replace, swap two neighbours) that turn one text into the other: the optimal string alignment distance,
 * row by row. A swap is the commonest slip of the hand, so it counts once.
 */
export function editDistance(a: string, b: string): number {
  let before: number[] = []
  let row = Array.from({ length: b.length + 1 }, (_, index) => index)
  for (let i = 1; i <= a.length; i += 1) {
    const next = [i]
    for (let j = 1; j <= b.length; j += 1) {
      const swapped =
        i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]
          ? elementAt(before, j - 2) + 1
          : Infinity
      next.push(
        Math.min(
          elementAt(next, j - 1) + 1,
          elementAt(row, j) + 1,
          elementAt(row, j - 1) + (a[i - 1] === b[j - 1] ? 0 : 1),
          swapped,
        ),
      )
    }
    before = row
    row = next
  }
  return elementAt(row, b.length)
}

/** Names are at most this long; what is longer is no slip of the hand, and comparing it letter by letter takes long. */
const longestName = 64

/** The candidate that was most likely meant, or undefined where none is near: at most a third of the letters differ. */
export function nearest(written: string, candidates: Iterable<string>): string | undefined {
  if (written.length > longestName) return undefined
  const wanted = written.toLowerCase()
  let best: string | undefined
  let least = Infinity
  for (const candidate of candidates) {
    const given = candidate.toLowerCase()
    const apart = Math.abs(given.length - wanted.length)
    if (apart > least || apart > Math.max(1, Math.max(wanted.length, given.length) / 3)) continue
    const distance = editDistance(wanted, given)
    if (distance < least) {
      best = candidate
      least = distance
    }
  }
  return best !== undefined &&
    least <= Math.max(1, Math.floor(Math.max(wanted.length, best.length) / 3))
    ? best
    : undefined
}

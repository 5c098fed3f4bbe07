import { fold, same } from './change.ts'
import type { DefinitionsDocument } from '../document/document.ts'

/** One difference between two documents, as small as it can be told: a part of an entry, or a whole entry that came or went. */
export interface Difference {
  readonly path: readonly string[]
  readonly before?: unknown
  readonly after?: unknown
}

/** Below these depths a value is told as a whole: entries of the sections, and those of the maps inside them. */
const wholeBelow = 3

/**
 * What changed from one document to another, in the order of the paths. Applying it to `a` gives `b`.
 */
export function diff(a: DefinitionsDocument, b: DefinitionsDocument): Difference[] {
  return between(a, b, [])
}

/** What changed between two values that stand at a path. */
export function between(a: unknown, b: unknown, path: readonly string[]): Difference[] {
  if (same(a, b)) return []
  if (isMap(a) && isMap(b) && path.length < wholeBelow + 1) {
    const keys = [...new Set([...Object.keys(a), ...Object.keys(b)])].sort()
    return keys.flatMap((key) => between(a[key], b[key], [...path, key]))
  }
  return [
    { path, ...(a === undefined ? {} : { before: a }), ...(b === undefined ? {} : { after: b }) },
  ]
}

const isMap = (value: unknown): value is Record<string, unknown> =>
  value !== null && typeof value === 'object' && !Array.isArray(value)

/** The document with differences applied. */
export const apply = (
  document: DefinitionsDocument,
  differences: readonly Difference[],
): DefinitionsDocument =>
  fold(
    document,
    differences.map(({ path, after }) => ({ path, after })),
  )

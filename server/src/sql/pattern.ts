import { accenti, casei, type Value } from '@bluestem/core/queries'

/** Texts are under an index, folded; a fold may make two characters of one, so a pattern that counts characters cannot use it. */
export const isDescription = (value: Value): boolean =>
  value.kind === 'property' && value.property.handle === 'description' && !value.ofParent

/** A pattern is always a literal, folded here rather than in every row. */
export function patternText(pattern: Value): string {
  if (pattern.kind === 'fold')
    return (pattern.fold === 'casei' ? casei : accenti)(patternText(pattern.value))
  if (pattern.kind === 'literal') return String(pattern.value)
  throw new Error('a pattern is a literal')
}

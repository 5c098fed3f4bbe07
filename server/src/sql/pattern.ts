import { accenti, casei, type Value } from '@bluestem/core/queries'

/** Texts are under an index, folded; a fold may make two characters of one, so a pattern that counts characters cannot use it. */
export const isDescription = (value: Value): boolean =>
  value.kind === 'property' && value.property.handle === 'description' && !value.ofParent

/** The title of an item itself, as it is or with its case folded: what the index of titles holds. */
export const isTitle = (value: Value): boolean =>
  value.kind === 'fold'
    ? value.fold === 'casei' && isTitle(value.value)
    : value.kind === 'property' && value.property.handle === 'title' && !value.ofParent

/** Whether a pattern holds three characters in a row that an index of trigrams can look for. */
export const hasTrigram = (pattern: string): boolean => /[^%_\\]{3}/.test(pattern)

/** A pattern is always a literal, folded here rather than in every row. */
export function patternText(pattern: Value): string {
  if (pattern.kind === 'fold')
    return (pattern.fold === 'casei' ? casei : accenti)(patternText(pattern.value))
  if (pattern.kind === 'literal') return String(pattern.value)
  throw new Error('a pattern is a literal')
}

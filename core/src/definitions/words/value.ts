import type { DefinitionsDocument } from '../document/document.ts'

/** Parts whose names in the document are not words. */
const partWords: Readonly<Record<string, string>> = {
  below: 'types below',
  empty: 'meaning of an empty part',
  order: 'place',
  refusesCircles: 'refusal of circles',
  retired: 'use',
  rollUp: 'roll-up',
  warnAt: 'warning',
  what: 'kind',
}

export const nameOfPart = (part: string): string => partWords[part] ?? part

/** The value of a part as people read it; null for nothing. */
export function valueInWords(
  document: DefinitionsDocument,
  part: string,
  value: unknown,
): string | null {
  if (part === 'retired') return value === true ? 'retired' : 'offered'
  if (value === undefined || value === null || value === '') return null
  if (typeof value === 'string') return titleOf(document, value)
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  if (typeof value === 'number') return String(value)
  const parts = Array.isArray(value)
    ? value.map((entry: unknown) => valueInWords(document, part, entry) ?? 'nothing')
    : Object.entries(value).map(
        ([key, entry]) => `${nameOfPart(key)} ${valueInWords(document, key, entry) ?? 'nothing'}`,
      )
  return parts.join(', ') || null
}

/** What is named by its identity is told by its title; other text is itself. */
const titleOf = (document: DefinitionsDocument, text: string): string =>
  [document.priorities, document.rulebooks, document.statuses, document.types]
    .map((section: Readonly<Record<string, { readonly title: string }>>) => section[text]?.title)
    .find((title) => title !== undefined) ?? text

import type { DefinitionsDocument } from '../definitions/document/document.ts'
import { inOrder } from '../definitions/document/ordered.ts'
import { typesOf } from '../definitions/rulebook/rulebook.ts'

/** The types a template's item may have in a rulebook, in their order. */
export const templateTypes = (document: DefinitionsDocument, rulebook: string): string[] =>
  inOrder(document.types)
    .map((type) => type.id)
    .filter((id) => typesOf(document, rulebook).includes(id) && !document.types[id]?.retired)

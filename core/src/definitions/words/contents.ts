import { entryOf } from '../../known/index.ts'
import type { DefinitionsDocument } from '../document/document.ts'
import { inOrder } from '../document/ordered.ts'
import type { Section } from '../document/sections.ts'
import { kindOfEntry } from '../document/entryKinds.ts'

/** The rungs of a ladder from the most urgent one on. */
export const rungsIn = (document: DefinitionsDocument, ladder: string): string | null => {
  const rungs = document.ladders[ladder]?.rungs
  if (!rungs) return null
  return (
    inOrder(rungs)
      .map(({ id }, index) => `${index + 1} ${document.priorities[id]?.title ?? id}`)
      .join(', ') || 'none'
  )
}

/** What is in a new entry: what a rulebook or a type brings is told with it. */
export function contentsOf(document: DefinitionsDocument, section: Section, id: string): string {
  const { description } = entryOf<{ description?: string }>(document[section], id)
  const parts = [contentReaders[section]?.(document, id), description]
  return parts.filter(Boolean).join('; ') || 'new'
}

const contentReaders: Partial<
  Readonly<Record<Section, (document: DefinitionsDocument, id: string) => string>>
> = {
  types: (document, id) => `tier ${entryOf(document.types, id).tier}`,
  fields: (document, id) => {
    const { kind, options } = entryOf(document.fields, id)
    const count = Object.keys(options ?? {}).length
    return count > 0 ? `${kind} of ${count}` : kind
  },
  statuses: (document, id) => entryOf(document.statuses, id).phase,
  priorities: (document, id) => `urgency ${entryOf(document.priorities, id).urgency}`,
  ladders: (document, id) => rungsIn(document, id) ?? '',
  rulebooks: (document, id) => {
    const kinds = Object.keys(entryOf(document.rulebooks, id).entries).map(kindOfEntry)
    const count = (kind: string, word: string): string | false => {
      const { length } = kinds.filter((text) => text === kind)
      return length > 0 && `${length} ${word}${length === 1 ? '' : 's'}`
    }
    return [
      count('type', 'type'),
      count('status', 'status of flows'),
      count('move', 'move'),
      count('form', 'place on forms'),
      count('requirement', 'requirement'),
    ]
      .filter(Boolean)
      .join(', ')
  },
}

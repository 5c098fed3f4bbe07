import type { DefinitionsDocument } from '../document/document.ts'
import { sections, sectionWords } from '../document/sections.ts'
import type { Problem } from './problem.ts'

/**
 * What a document would be as the one that follows another: nothing that was ever published goes away, so entries it lacks come
 * back retired. For documents from files, and for going back to an earlier edition.
 */
export function succeed(
  before: DefinitionsDocument,
  after: DefinitionsDocument,
): DefinitionsDocument {
  // Sections are written by name, each with entries of its own kind.
  const whole = { ...after } as Record<string, unknown>
  for (const section of sections) {
    const gone = Object.entries(before[section])
      .filter(([id]) => !after[section][id])
      .map(([id, entry]) => [id, { ...entry, retired: true }] as const)
    whole[section] = { ...after[section], ...Object.fromEntries(gone) }
  }
  // It was written just above.
  const fields = whole['fields'] as DefinitionsDocument['fields']
  whole['fields'] = Object.fromEntries(
    Object.entries(fields).map(([id, field]) => {
      const gone = Object.entries(before.fields[id]?.options ?? {}).filter(
        ([option]) => field.options && !field.options[option],
      )
      return [
        id,
        gone.length === 0
          ? field
          : {
              ...field,
              options: {
                ...field.options,
                ...Object.fromEntries(
                  gone.map(([option, entry]) => [option, { ...entry, retired: true }]),
                ),
              },
            },
      ]
    }),
  )
  whole['projects'] = { ...before.projects, ...after.projects }
  // Every section holds entries of the two documents, and nothing else.
  return whole as DefinitionsDocument
}

/** What may not happen from one edition to the next: a handle or kind that changes, or anything that goes away instead of being retired. */
export function judgeSuccession(
  before: DefinitionsDocument,
  after: DefinitionsDocument,
): Problem[] {
  const gone = sections.flatMap((section) =>
    Object.entries<{ title: string }>(before[section])
      .filter(([id]) => !after[section][id])
      .map(([id, entry]) => ({
        pointer: `/${section}/${id}`,
        message: `The ${sectionWords[section]} “${entry.title}” was published and is named by history; retire it instead of taking it away.`,
        expected: 'retired: true',
      })),
  )
  const fields = Object.entries(after.fields).flatMap(([id, field]) => {
    const old = before.fields[id]
    if (!old) return []
    const moved = (['handle', 'kind'] as const)
      .filter((part) => old[part] !== field[part])
      .map((part) => ({
        pointer: `/fields/${id}/${part}`,
        message: `The ${part} of “${old.title}” never changes; make another field instead.`,
        expected: old[part],
      }))
    const lost = Object.entries(old.options ?? {})
      .filter(([option]) => !field.options?.[option])
      .map(([option, { title }]) => ({
        pointer: `/fields/${id}/options/${option}`,
        message: `The option “${title}” of “${old.title}” was published; retire it instead of taking it away.`,
        expected: 'retired: true',
      }))
    return [...moved, ...lost]
  })
  return [...gone, ...fields]
}

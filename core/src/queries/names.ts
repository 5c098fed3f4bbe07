import type { Choice, QueryNames } from './tree/vocabulary.ts'
import type { Domain, Property } from './tree/checked.ts'

/** What a query can name, from lists of it, as they travel to whoever writes queries. */
export function namesOf(
  properties: readonly Property[],
  choices: Readonly<Partial<Record<Domain, readonly Choice[]>>>,
): QueryNames {
  const byHandle = new Map(properties.map((property) => [property.handle, property]))
  const byId = new Map<Domain, ReadonlyMap<string, Choice>>()
  const choicesOf = (domain: Domain): readonly Choice[] => choices[domain] ?? []
  return {
    properties: byHandle,
    choices: choicesOf,
    choice: (domain, id) => {
      const known =
        byId.get(domain) ?? new Map(choicesOf(domain).map((choice) => [choice.id, choice]))
      byId.set(domain, known)
      return known.get(id)
    },
  }
}

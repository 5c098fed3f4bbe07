import type { Person } from './living.ts'

/** Who a state is by: the kinds are kept as small numbers. */
export const byKinds = ['person', 'program', 'edition', 'import', 'bulk job', 'merge'] as const

export interface Author {
  readonly kind: (typeof byKinds)[number]
  readonly number: number | null
}

export const personAuthor = (person: Person): Author => ({ kind: 'person', number: person.number })

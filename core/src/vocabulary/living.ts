import type { Calendar } from '../calendar/working.ts'
import type { Cql2Json } from '../queries/toJson.ts'
import type { Release, Span } from '../queries/tree/vocabulary.ts'

/** What is defined outside the document and changes at once: projects, people, labels, components, iterations, releases, teams. */
export interface Living {
  readonly projects: readonly {
    readonly id: string
    readonly code: string
    readonly title: string
    /** the calendar it works by; empty for the standard one */
    readonly calendar: string | null
  }[]
  readonly calendars: readonly Calendar[]
  readonly people: readonly { readonly id: string; readonly name: string; readonly email: string }[]
  readonly labels: readonly {
    readonly id: string
    readonly title: string
    readonly family: string | null
    readonly project?: string | null
    readonly retired?: boolean
  }[]
  readonly components: readonly {
    readonly id: string
    readonly title: string
    readonly project: string
    readonly retired?: boolean
  }[]
  readonly iterations: readonly (Span & { readonly title: string })[]
  readonly releases: readonly (Release & { readonly title: string })[]
  readonly teams: readonly {
    readonly id: string
    readonly title: string
    /** the identities of those who belong to it */
    readonly people: Iterable<string>
    readonly remit: Cql2Json | null
    readonly calendar: string | null
  }[]
}

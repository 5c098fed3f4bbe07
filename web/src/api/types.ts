import type {
  Choice,
  Cql2Json,
  Domain,
  FunctionEntry,
  Line,
  Property,
  QueryError,
} from '@bluestem/core/queries'
import type { QueryContent, ViewContent } from '@bluestem/core/views'
import type { DashboardContent, MeasureContent } from '@bluestem/core/dashboards'
import type { HistoryWords, ShownWhen } from '@bluestem/core/work'

/** A choice as the API shows it; `mark` is what its mark needs. */
export interface Chosen {
  readonly id: string
  readonly title: string
  readonly mark?: string | number | null
  readonly family?: string
}

export type NamedChoice = Chosen &
  Pick<Choice, 'name' | 'qualified' | 'retired'> & {
    readonly own?: string
    /** a label's family by its identity; `family` is its title */
    readonly familyId?: string
    readonly project?: string
  }

export type Item = Readonly<Record<string, unknown>> & {
  readonly ref: string
  readonly type: Chosen
  readonly title: string
  readonly on_hold: boolean
  readonly status?: Chosen
  /** the version it is at, for which a change is meant; none where the past is asked about */
  readonly etag?: string
  readonly fields?: Readonly<Record<string, unknown>>
}

export interface Answers {
  readonly items: readonly Item[]
  readonly total: number
  readonly cannotTell: number
  readonly next: string | null
}

export type WholeItem = Item & {
  readonly etag: string
  readonly status: Chosen
  readonly statusSince: string
  readonly holdSince: string | null
  readonly moves: readonly (Chosen & {
    readonly missing: readonly string[]
    readonly says: string | null
    readonly asksReason: boolean
  })[]
  readonly limits: readonly {
    readonly id: string
    readonly title: string
    readonly state: string
    readonly allowed: number
    readonly used: number
    readonly warning: boolean
    readonly runsOut: string | null
    readonly calendar: string
    readonly team: string | null
  }[]
  readonly rulebook: string
  readonly refusals: readonly (Chosen & { readonly message: string })[]
  readonly children: readonly {
    readonly ref: string
    readonly title: string
    readonly type: Chosen
    readonly status: Chosen
  }[]
}

export interface Author {
  readonly kind: string
  readonly id: string | null
  readonly title: string
}

export interface Version {
  readonly from: string
  readonly to: string | null
  readonly by: Author
  readonly words: readonly (readonly HistoryWords[])[]
}

export interface Comment {
  readonly id: number
  readonly body: string
  readonly at: string
  readonly by: Author
}

export interface Project {
  readonly id: string
  readonly code: string
  readonly title: string
  readonly description: string
  readonly open: boolean
  readonly rulebook: string | null
}

export interface Team {
  readonly id: string
  readonly title: string
  readonly people: readonly string[]
  readonly remit: {
    readonly text: string
    readonly kept: Cql2Json | null
    readonly sentence: readonly Line[]
    readonly errors: readonly QueryError[]
  }
  readonly calendar: string | null
  readonly version: number
}

export interface CountedProject extends Project {
  readonly phases: readonly number[]
  readonly calendar: string | null
  readonly open: boolean
  readonly members: readonly string[]
  readonly keepers: readonly string[]
  readonly version: number
}

export interface Vocabulary {
  readonly edition: number
  readonly zone: string
  readonly today: string
  readonly properties: readonly Property[]
  readonly functions: readonly (FunctionEntry & { readonly name: string })[]
  readonly choices: Readonly<Record<Domain, readonly NamedChoice[]>>
  readonly projects: readonly Project[]
}

export interface FormEntry {
  readonly field: string
  readonly handle: string
  readonly section: string
  readonly required: boolean
  readonly shownWhen?: ShownWhen
}

export interface OfferedType {
  readonly id: string
  readonly title: string
  readonly mark: string
  readonly description: string
  readonly start: string
  readonly statuses: readonly Chosen[]
  readonly moves: readonly string[]
  readonly item: readonly FormEntry[]
  readonly make: readonly FormEntry[]
}

export interface Offers {
  readonly id: string
  readonly code: string
  readonly title: string
  readonly rulebook: Chosen
  readonly priority: string | null
  readonly priorities: readonly Chosen[]
  readonly types: readonly OfferedType[]
  readonly templates: readonly OfferedTemplate[]
  /** the type made most of late */ readonly usual: string | null
}

export interface OfferedTemplate {
  readonly id: string
  readonly title: string
  readonly description: string
  readonly type: string
  readonly below: number
  readonly blanks: readonly string[]
}

export interface SavedThing<Content> {
  readonly id: string
  readonly title: string
  readonly description: string
  readonly shared: 'me' | 'everyone'
  readonly owner: Chosen
  readonly changedAt: string
  readonly mayEdit: boolean
  readonly version: number
  readonly content: Content
}

export type SavedQuery = SavedThing<QueryContent> & {
  readonly text: string
  readonly sentence: readonly Line[]
  readonly errors: readonly QueryError[]
}

export type SavedView = SavedThing<ViewContent>
export type SavedMeasure = SavedThing<MeasureContent>
export type SavedDashboard = SavedThing<DashboardContent>

export interface Checked {
  readonly ok: boolean
  readonly text: string
  readonly textMessage: string | null
  readonly json: unknown
  readonly kept: unknown
  readonly sentence: readonly Line[]
  readonly errors: readonly QueryError[]
}

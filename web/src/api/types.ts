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
import type { Said, ShownWhen } from '@bluestem/core/work'
import type { Stale, TemplateContent } from '@bluestem/core/templates'
import type {
  Change,
  Clash,
  DefinitionsDocument,
  MappingChoices,
  MappingNeed,
  Named,
  Problem,
  Usage as CoreUsage,
} from '@bluestem/core/definitions'

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
    readonly project?: string
  }

export type Item = Readonly<Record<string, unknown>> & {
  readonly ref: string
  readonly type: Chosen
  readonly title: string
  readonly on_hold: boolean
  readonly status?: Chosen
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
  readonly words: readonly (readonly Said[])[]
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

export interface Kept<Content> {
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
export type KeptQuery = Kept<QueryContent> & {
  readonly text: string
  readonly sentence: readonly Line[]
  readonly errors: readonly QueryError[]
}
export type KeptView = Kept<ViewContent>
export type KeptMeasure = Kept<MeasureContent>
export type KeptDashboard = Kept<DashboardContent>

export interface Checked {
  readonly ok: boolean
  readonly text: string
  readonly textMessage: string | null
  readonly kept: unknown
  readonly sentence: readonly Line[]
  readonly errors: readonly QueryError[]
}

export interface DraftChange {
  readonly id: string
  readonly by: string
  readonly at: string
  readonly path: Change['path']
  readonly words: string
  readonly items: number
  readonly filter?: unknown
  readonly named: readonly Named[]
  readonly forms: readonly string[]
  readonly undoable: boolean
}
/** A draft by what it is; `count` is of its changes. */
export interface DraftSummary {
  readonly id: string
  readonly title: string
  readonly base: number
  readonly etag: string
  readonly proposed: boolean
  readonly by: string
  readonly at: string
  readonly count: number
}
export interface Draft extends Omit<DraftSummary, 'count'> {
  readonly mayPublish: boolean
  readonly document: DefinitionsDocument
  readonly changes: readonly DraftChange[]
  readonly problems: readonly Problem[]
  readonly clashes: readonly Clash[]
  readonly needs: readonly MappingNeed[]
  readonly open: readonly string[]
  readonly choices: MappingChoices
  readonly boards: readonly { readonly view: string; readonly status: string }[]
  readonly touched: {
    readonly items: number
    readonly clocks?: { readonly running: number; readonly late: number } | null
    readonly named: Readonly<Partial<Record<Named['kind'], number>>>
  }
  readonly schedule: { readonly at: string; readonly by: string; readonly note: string } | null
  readonly failed: string | null
}
export interface LastChange {
  readonly edition: number
  readonly at: string
  readonly by: string | null
  readonly note: string
}
export interface Usage extends CoreUsage {
  /** seconds since it was counted: with very many items counting takes a while */ readonly countedAgo?: number
  readonly last: Readonly<Record<string, string>>
  readonly changed: Readonly<Record<string, LastChange>>
}
export interface BoardOfStatuses {
  readonly id: string
  readonly title: string
  readonly columns: readonly string[]
}
export interface Replay {
  readonly days: number
  readonly moves: number
  readonly newly: number
  readonly refused: readonly {
    readonly type: string
    readonly from: string
    readonly to: string
    readonly why: string
    readonly moves: number
    readonly before: number
    readonly items: number
    readonly refs: readonly string[]
    readonly words: string
  }[]
}
export interface Label {
  readonly id: string
  readonly title: string
  readonly family: string | null
  readonly colour: number
  readonly project: string | null
  readonly description: string
  readonly retired: boolean
  readonly version: number
}
export interface Component {
  readonly id: string
  readonly title: string
  readonly project: string
  readonly keeper: Chosen | null
  readonly description: string
  readonly retired: boolean
  readonly version: number
}
export interface Template {
  readonly id: string
  readonly title: string
  readonly description: string
  readonly rulebook: string | null
  readonly project: string | null
  readonly content: TemplateContent
  readonly retired: boolean
  readonly version: number
  readonly usedAt: string | null
  readonly changedAt: string
  readonly stale: readonly Stale[]
  readonly blanks: readonly string[]
  readonly mayEdit: boolean
}
export interface Act {
  readonly number: number
  readonly at: string
  readonly by: string | null
  readonly act: string
  readonly subject: string
  /** of the subject, as far as it is known */ readonly title: string | null
  readonly before: unknown
  readonly after: unknown
}
export interface Edition {
  readonly number: number
  readonly note: string
  readonly published_at: string
  readonly by: string | null
  readonly changes: readonly string[]
}

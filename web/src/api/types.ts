import type { Choice, Domain, FunctionEntry, Line, Property, QueryError } from '@bluestem/core/queries'
import type { QueryContent, ViewContent } from '@bluestem/core/views'
import type { DashboardContent, MeasureContent } from '@bluestem/core/dashboards'
import type { Said } from '@bluestem/core/work'
import type { Change, DefinitionsDocument, Problem } from '@bluestem/core/definitions'

/** A choice as the API shows it; `mark` is what its mark needs. */
export interface Chosen { readonly id: string; readonly title: string; readonly mark?: string | number | null; readonly family?: string }
export type NamedChoice = Chosen & Pick<Choice, 'name' | 'qualified'> & { readonly own?: string }

export type Item = Readonly<Record<string, unknown>> & { readonly ref: string; readonly type: Chosen; readonly title: string; readonly on_hold: boolean; readonly status?: Chosen; readonly fields?: Readonly<Record<string, unknown>> }
export interface Answers { readonly items: readonly Item[]; readonly total: number; readonly cannotTell: number; readonly next: string | null }

export type WholeItem = Item & {
  readonly etag: string
  readonly status: Chosen
  readonly statusSince: string
  readonly holdSince: string | null
  readonly moves: readonly Chosen[]
  readonly refusals: readonly (Chosen & { readonly message: string })[]
  readonly children: readonly { readonly ref: string; readonly title: string; readonly type: Chosen; readonly status: Chosen }[]
}

export interface Author { readonly kind: string; readonly id: string | null; readonly title: string }
export interface Version { readonly from: string; readonly to: string | null; readonly by: Author; readonly words: readonly (readonly Said[])[] }
export interface Comment { readonly id: number; readonly body: string; readonly at: string; readonly by: Author }

export interface Project { readonly id: string; readonly code: string; readonly title: string; readonly description: string; readonly open: boolean; readonly rulebook: string | null }
export interface CountedProject extends Project { readonly phases: readonly number[] }

export interface Vocabulary {
  readonly edition: number
  readonly zone: string
  readonly today: string
  readonly properties: readonly Property[]
  readonly functions: readonly (FunctionEntry & { readonly name: string })[]
  readonly choices: Readonly<Record<Domain, readonly NamedChoice[]>>
  readonly projects: readonly Project[]
}

export interface FormEntry { readonly field: string; readonly handle: string; readonly section: string; readonly required: boolean }
export interface OfferedType { readonly id: string; readonly title: string; readonly mark: string; readonly description: string; readonly start: string; readonly statuses: readonly Chosen[]; readonly moves: readonly string[]; readonly item: readonly FormEntry[]; readonly make: readonly FormEntry[] }
export interface Offers { readonly id: string; readonly code: string; readonly title: string; readonly rulebook: Chosen; readonly priority: string | null; readonly priorities: readonly Chosen[]; readonly types: readonly OfferedType[] }

export interface Kept<Content> { readonly id: string; readonly title: string; readonly description: string; readonly shared: 'me' | 'everyone'; readonly owner: Chosen; readonly changedAt: string; readonly mayEdit: boolean; readonly version: number; readonly content: Content }
export type KeptQuery = Kept<QueryContent> & { readonly text: string; readonly sentence: readonly Line[]; readonly errors: readonly QueryError[] }
export type KeptView = Kept<ViewContent>
export type KeptMeasure = Kept<MeasureContent>
export type KeptDashboard = Kept<DashboardContent>

export interface Checked { readonly ok: boolean; readonly text: string; readonly textMessage: string | null; readonly kept: unknown; readonly sentence: readonly Line[]; readonly errors: readonly QueryError[] }

export interface DraftChange { readonly id: string; readonly by: string; readonly at: string; readonly path: Change['path']; readonly words: string; readonly items: number; readonly undoable: boolean }
export interface Draft { readonly id: string; readonly title: string; readonly base: number; readonly etag: string; readonly document: DefinitionsDocument; readonly changes: readonly DraftChange[]; readonly problems: readonly Problem[]; readonly touched: number }
export interface Usage { readonly items: Readonly<Record<string, number>>; readonly standing: Readonly<Record<string, number>>; readonly lastUsed: Readonly<Record<string, string | null>>; readonly queries: Readonly<Record<string, number>> }
export interface Edition { readonly number: number; readonly note: string; readonly published_at: string; readonly by: string | null; readonly changes: readonly string[] }

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
import type { Chosen } from '../api/types.ts'
import type { Stale, TemplateContent } from '@bluestem/core/templates'

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

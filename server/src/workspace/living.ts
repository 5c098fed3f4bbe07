import type { Cql2Json } from '@bluestem/core/queries'

export interface Project {
  readonly id: string
  readonly number: number
  readonly code: string
  readonly title: string
  readonly description: string
  readonly open: boolean
  readonly members: ReadonlySet<number>
  readonly keepers: ReadonlySet<number>
  readonly calendar: string | null
  readonly version: number
}

export interface Person {
  readonly id: string
  readonly number: number
  readonly name: string
  readonly email: string
  readonly role: 'administrator' | 'member' | 'viewer'
  /** whether they may still sign in */ readonly active: boolean
  /** whether they chose a password, or were given one */ readonly hasPassword: boolean
  readonly version: number
}

export interface Label {
  readonly id: string
  readonly number: number
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
  readonly number: number
  readonly title: string
  readonly project: string
  readonly keeper: string | null
  readonly description: string
  readonly retired: boolean
  readonly version: number
}

export interface Team {
  readonly id: string
  readonly title: string
  readonly people: ReadonlySet<number>
  /** the filter for the items that are theirs, with identities; none yet when null */ readonly remit: Cql2Json | null
  readonly calendar: string | null
  readonly version: number
}

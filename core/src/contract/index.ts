import { auditContracts } from '../audit/schema.ts'
import { binContracts } from '../bin/schema.ts'
import { bulkContracts } from '../bulk/schema.ts'
import { calendarContracts } from '../calendar/schema.ts'
import { componentContracts } from '../components/schema.ts'
import { dashboardContracts } from '../dashboards/schema.ts'
import { definitionContracts } from '../definitions/contract.ts'
import { exchangeContracts } from '../exchange/schema.ts'
import { iterationContracts } from '../iterations/schema.ts'
import { directoryContracts } from '../directory/index.ts'
import { jobContracts } from '../jobs/schema.ts'
import { jotContracts } from '../jots/schema.ts'
import { labelContracts } from '../labels/schema.ts'
import { mergeContracts } from '../merges/schema.ts'
import { noticeContracts } from '../notices/schema.ts'
import { peopleContracts } from '../people/schema.ts'
import { projectContracts } from '../projects/schema.ts'
import { queryContracts } from '../queries/schema.ts'
import { releaseContracts } from '../releases/schema.ts'
import type { Contract, Immutable } from '../schema/index.ts'
import { teamContracts } from '../teams/schema.ts'
import { templateContracts } from '../templates/schema.ts'
import { treeContracts } from '../tree/schema.ts'
import { viewContracts } from '../views/schema.ts'
import { workContracts } from '../work/schema.ts'
import type { Static, TSchema } from 'typebox'

/** What crosses HTTP, endpoint by endpoint: server, screens and tests all go by this. */
export const contracts = {
  ...peopleContracts,
  ...directoryContracts,
  ...auditContracts,
  ...jobContracts,
  ...definitionContracts,
  ...labelContracts,
  ...mergeContracts,
  ...componentContracts,
  ...calendarContracts,
  ...teamContracts,
  ...projectContracts,
  ...templateContracts,
  ...workContracts,
  ...noticeContracts,
  ...bulkContracts,
  ...binContracts,
  ...jotContracts,
  ...treeContracts,
  ...iterationContracts,
  ...releaseContracts,
  ...exchangeContracts,
  ...queryContracts,
  ...viewContracts,
  ...dashboardContracts,
}

/** An endpoint by its method and its path below `/api/v1`. */
export type Route = keyof typeof contracts

/** The parameters that a path such as `/labels/{id}` names. */
export type ParamsOf<Of extends string> = Of extends `${string}{${infer Name}}${infer Rest}`
  ? { readonly [Key in Name]: string } & ParamsOf<Rest>
  : unknown

type Part<Of extends Route, Name extends keyof Contract> = (typeof contracts)[Of] extends {
  readonly [Key in Name]: infer Schema extends TSchema
}
  ? Schema
  : undefined

type Given<Schema> = Schema extends TSchema ? Static<Schema> : undefined

export type QueryOf<Of extends Route> =
  Part<Of, 'query'> extends TSchema ? Given<Part<Of, 'query'>> : Readonly<Record<never, string>>
export type BodyOf<Of extends Route> = Given<Part<Of, 'body'>>
export type AnswerOf<Of extends Route> = Immutable<Given<Part<Of, 'answer'>>>

/** The contract of an endpoint. */
export const contractOf = (route: Route): Contract => contracts[route]

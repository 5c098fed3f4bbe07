import { halves } from '@bluestem/core/known'
import type { Express, Request, Response } from 'express'
import type { Sequelize } from 'sequelize'
import {
  type AnswerOf,
  type BodyOf,
  type ParamsOf,
  type QueryOf,
  type Route,
  contractOf,
  type contracts,
} from '@bluestem/core/contract'
import type { Contract } from '@bluestem/core/schema'
import type { ActorContext } from '../workspace/actor.ts'
import { hideIdentities } from '../workspace/hidden.ts'
import { forbidden, notFound, Problem } from '../problems/problem.ts'
import { judge, judgeAnswer } from './judge.ts'
import { answerInTime } from './answerInTime.ts'

const roles = ['viewer', 'member', 'administrator'] as const

/** What a handler is given: who asks, in which world, when, and what the request holds, judged by the endpoint's contract. */
export interface RequestContext<Of extends Route = Route> extends ActorContext {
  readonly database: Sequelize
  readonly params: ParamsOf<Of>
  readonly query: QueryOf<Of>
  readonly body: BodyOf<Of>
  readonly request: Request
}

interface AnswerHead {
  readonly status?: number
  readonly etag?: string
  readonly headers?: Readonly<Record<string, string>>
}

/** What a handler answers; a body of undefined is answered 204. */
export type Answer<Body = unknown> = AnswerHead &
  (undefined extends Body ? { readonly body?: Body } : { readonly body: Body })

/** What an endpoint of a route answers; nothing, where its contract lets whoever asks prefer that. */
type Answered<Of extends Route> =
  | Answer<AnswerOf<Of>>
  | ((typeof contracts)[Of] extends { readonly mayBeMinimal: true } ? Answer<undefined> : never)

interface Definition<Of extends Route> {
  /** the least role that may call it */
  readonly role: (typeof roles)[number]
  readonly summary: string
  /** milliseconds after which it is ended; for what ends by itself */
  readonly timeout?: number
  answer(context: RequestContext<Of>): Promise<Answered<Of>> | Answered<Of>
}

/** An endpoint as it is mounted. */
export interface Endpoint extends Omit<Definition<Route>, 'answer'> {
  readonly route: Route
  /** such as `/labels/{id}`, below `/api/v1` */
  readonly path: string
  readonly method: 'get' | 'post' | 'patch' | 'delete'
  readonly contract: Contract
  answer(context: RequestContext): Promise<Answer> | Answer
}

/** An endpoint: its contract says what crosses; this says who may call it, and what answers. */
export const endpoint = <const Of extends Route>(route: Of, definition: Definition<Of>): Endpoint =>
  endpointOf(route, definition)

/** An endpoint of which only the kind of its route is known where it is made. */
export function endpointOf(
  route: Route,
  definition: Omit<Endpoint, 'route' | 'path' | 'method' | 'contract'>,
): Endpoint {
  const [verb, path] = halves(route, ' ')
  // A route begins with one of the four verbs, by its type.
  const method = verb.toLowerCase() as Endpoint['method']
  return { ...definition, route, path, method, contract: contractOf(route) }
}

/** What stands in an address for an identity looks like one, so that nothing else is ever looked up. */
const identityShape = /^[a-z]{2}_[a-z0-9_]{1,60}$/

function judgeParams(params: Readonly<Record<string, string>>): void {
  for (const name of ['id', 'change', 'type'])
    if (params[name] !== undefined && !identityShape.test(params[name]))
      throw notFound('such thing')
}

/** A parameter as text; one that is given several times is its values, joined. */
const textOf = (value: unknown): string =>
  Array.isArray(value) ? value.join(',') : typeof value === 'string' ? value : ''

const queryOf = (request: Request): Record<string, string> =>
  Object.fromEntries(Object.entries(request.query).map(([key, value]) => [key, textOf(value)]))

const paramsOf = (request: Request): Record<string, string> =>
  Object.fromEntries(Object.entries(request.params).map(([key, value]) => [key, String(value)]))

/** An edition was published between reading the world and writing in it: nothing was written, and the new world may allow it. */
const mayTryAgain = (error: unknown): boolean =>
  error instanceof Problem && error.more['retry'] === true

const mostTries = 5

/** What a request sends, once it is what the contract asks for. */
function judged(contract: Contract, request: Request): { body: unknown; query: object } {
  const body: unknown = request.body
  const query = queryOf(request)
  if (contract.body) judge(contract.body, body)
  if (contract.query) judge(contract.query, query)
  return { body, query }
}

/** Answers one request in the world of the moment: role, parameters and body are judged first. */
async function answerOnce(
  served: Endpoint,
  database: Sequelize,
  actor: ActorContext,
  request: Request,
  response: Response,
): Promise<Answer> {
  const { world, person } = actor
  if (roles.indexOf(person.role) < roles.indexOf(served.role))
    throw forbidden(`This takes the role ${served.role}; you are ${person.role}.`)
  const params = paramsOf(request)
  judgeParams(params)
  const { body, query } = judged(served.contract, request)
  // All parts were judged by the schemas of this very route.
  const context = { ...actor, database, params, query, body, request } as RequestContext
  const answer = await answerInTime(
    served,
    person,
    response,
    async () => await served.answer(context),
  )
  return { ...answer, body: hideIdentities(answer.body, world.hidden) }
}

/** Puts endpoints on the application. @param strict whether every answer is judged by its contract, as in tests */
export function mount(
  app: Express,
  database: Sequelize,
  endpoints: readonly Endpoint[],
  actorOf: (request: Request) => Promise<ActorContext>,
  strict: boolean,
): void {
  for (const served of endpoints) {
    const path = `/api/v1${served.path.replaceAll(/\{(\w+)\}/g, ':$1')}`
    app[served.method](path, async (request: Request, response: Response) => {
      for (let tries = 1; ; tries += 1) {
        try {
          const answer = await answerOnce(
            served,
            database,
            await actorOf(request),
            request,
            response,
          )
          if (strict) judgeAnswer(served, answer.body)
          return send(response, answer)
        } catch (error) {
          if (!mayTryAgain(error) || tries >= mostTries) throw error
        }
      }
    })
  }
}

/** The version of what is told is its ETag, where it has one. */
const versionOf = (body: unknown): string | undefined =>
  body !== null && typeof body === 'object' && 'version' in body && typeof body.version === 'number'
    ? `"${body.version}"`
    : undefined

function send(response: Response, { status, body, etag = versionOf(body), headers }: Answer): void {
  if (etag) response.setHeader('ETag', etag)
  response.setHeader('Cache-Control', etag ? 'private, no-cache' : 'no-store')
  for (const [name, value] of Object.entries(headers ?? {})) response.setHeader(name, value)
  if (body === undefined) response.status(status ?? 204).end()
  else if (typeof body === 'string') response.status(status ?? 200).send(body)
  else response.status(status ?? 200).json(body)
}

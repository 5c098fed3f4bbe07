import type { Express, Request, Response } from 'express'
import type { Sequelize } from 'sequelize'
import type { Static, TSchema, TUnknown } from 'typebox'
import type { ActorContext } from '../workspace/actor.ts'
import { hideIdentities } from '../workspace/hidden.ts'
import { forbidden, notFound, Problem } from '../problems/problem.ts'
import { judge } from './judge.ts'
import { answerInTime } from './answerInTime.ts'

const roles = ['viewer', 'member', 'administrator'] as const

/** The parameters that a path such as `/labels/{id}` names. */
type PathParams<Path extends string> = Path extends `${string}{${infer Name}}${infer Rest}`
  ? { readonly [Key in Name]: string } & PathParams<Rest>
  : unknown

/** What a handler is given: who asks, in which world, when, and what the request holds. */
export interface RequestContext<Params = unknown, Body = unknown> extends ActorContext {
  readonly database: Sequelize
  readonly params: Params
  readonly query: Readonly<Record<string, string>>
  /** judged by the endpoint's schema where it has one */
  readonly body: Body
  readonly request: Request
}

/** What a handler answers; a body of undefined is answered 204. */
export interface Answer {
  readonly status?: number
  readonly body?: unknown
  readonly etag?: string
  readonly headers?: Readonly<Record<string, string>>
}

interface Definition<Path extends string, Body extends TSchema> {
  readonly method: 'get' | 'post' | 'patch' | 'delete'
  readonly path: Path
  /** the least role that may call it */
  readonly role: (typeof roles)[number]
  readonly summary: string
  readonly body?: Body
  /** milliseconds after which it is ended; for what ends by itself */
  readonly timeout?: number
  answer(context: RequestContext<PathParams<Path>, Static<Body>>): Promise<Answer> | Answer
}

/** An endpoint as it is mounted, whatever its path and body. */
export type Endpoint = Definition<string, TSchema>

/** Types the handler of an endpoint by its path and by the schema of its body. */
export const endpoint = <const Path extends string, Body extends TSchema = TUnknown>(
  definition: Definition<Path, Body>,
): Endpoint => definition

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
  const body: unknown = request.body
  if (served.body) judge(served.body, body)
  const context = { ...actor, database, params, query: queryOf(request), body, request }
  const answer = await answerInTime(
    served,
    person,
    response,
    async () => await served.answer(context),
  )
  return { ...answer, body: hideIdentities(answer.body, world.hidden) }
}

/** Puts endpoints on the application. */
export function mount(
  app: Express,
  database: Sequelize,
  endpoints: readonly Endpoint[],
  actorOf: (request: Request) => Promise<ActorContext>,
): void {
  for (const served of endpoints) {
    const path = served.path.replaceAll(/\{(\w+)\}/g, ':$1')
    app[served.method](path, async (request: Request, response: Response) => {
      for (let tries = 1; ; tries += 1) {
        try {
          return send(
            response,
            await answerOnce(served, database, await actorOf(request), request, response),
          )
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

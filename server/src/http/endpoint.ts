import { Ajv2020, type ErrorObject, type ValidateFunction } from 'ajv/dist/2020.js'
import type { Express, Request, Response } from 'express'
import type { TSchema } from 'typebox'
import { Asker, askedBy } from '../database/asker.ts'
import type { Person, World } from '../database/world.ts'
import { hideIdentities } from './hidden.ts'
import { forbidden, invalid, notFound, Problem, unavailable, type Wrong } from './problem.ts'

const roles = ['viewer', 'member', 'administrator'] as const

/** What a handler is given: who asks, in which world, and when. */
export interface Ask {
  readonly world: World
  readonly person: Person
  readonly now: Date
  readonly params: Readonly<Record<string, string>>
  readonly query: Readonly<Record<string, string>>
  readonly body: never
  readonly request: Request
}

/** What a handler answers; a body of undefined is answered 204. */
export interface Answer {
  readonly status?: number
  readonly body?: unknown
  readonly etag?: string
  readonly headers?: Readonly<Record<string, string>>
}

export interface Endpoint {
  readonly method: 'get' | 'post' | 'patch' | 'delete'
  readonly path: string
  /** the least role that may call it */
  readonly who: (typeof roles)[number]
  readonly says: string
  readonly body?: TSchema
  /** milliseconds after which it is ended; for what ends by itself */
  readonly most?: number
  readonly answer: (ask: Ask) => Promise<Answer>
}

/** Stops at the first part that is wrong: a body of a thousand wrong parts takes no longer than one. */
const quick = {
  ajv: new Ajv2020({ strict: false }),
  compiled: new WeakMap<object, ValidateFunction>(),
}
/** Finds every part that is wrong, for bodies small enough. */
const thorough = {
  ajv: new Ajv2020({ strict: false, allErrors: true }),
  compiled: new WeakMap<object, ValidateFunction>(),
}
/** The largest body, in characters, of which every wrong part is told. */
const small = 20_000

function validatorOf({ ajv, compiled }: typeof quick, schema: TSchema): ValidateFunction {
  let validate = compiled.get(schema)
  if (!validate) {
    validate = ajv.compile(schema)
    compiled.set(schema, validate)
  }
  return validate
}

/** Judges a body by its schema, with a JSON pointer and what was expected for each part that is wrong, at most twenty of them. */
export function judge(schema: TSchema, body: unknown): void {
  const first = validatorOf(quick, schema)
  if (first(body)) return
  const every = validatorOf(thorough, schema)
  const errors =
    JSON.stringify(body ?? null).length <= small && !every(body) ? every.errors : first.errors
  throw invalid(worst(errors ?? []).map(inWords))
}

/** Of alternatives that all fail, the message of the alternation itself says nothing: leave it out where others tell more. */
const worst = (errors: readonly ErrorObject[]): readonly ErrorObject[] => {
  const telling = errors.filter((error) => error.keyword !== 'anyOf')
  return telling.length > 0 ? telling : errors
}

function inWords(error: ErrorObject): Wrong {
  const pointer =
    error.keyword === 'required'
      ? `${error.instancePath}/${String(error.params['missingProperty'])}`
      : error.keyword === 'additionalProperties'
        ? `${error.instancePath}/${String(error.params['additionalProperty'])}`
        : error.instancePath
  const name = pointer.split('/').filter(Boolean).join(', ') || 'The body'
  if (error.keyword === 'required')
    return { pointer, message: `${name} is missing.`, expected: 'a value' }
  if (error.keyword === 'additionalProperties')
    return { pointer, message: `${name} has no meaning here.`, expected: 'nothing' }
  return {
    pointer,
    message: `${name} ${error.message ?? 'is not valid'}.`,
    expected: error.message ?? '',
  }
}

/** How long a request may take, in milliseconds, before what it runs is ended. */
const late = 20_000

const tooLate = (): Problem =>
  unavailable(
    'Took too long',
    'This took longer than 20 seconds and was stopped; nothing was changed. Narrow it, for example to one project or type.',
    5,
  )
const askerLeft = (): Problem =>
  unavailable('Gone', 'Whoever asked did not wait for the answer.', 1)

/**
 * Answers within a time: past it, or when whoever reads has gone, what runs in the database is cancelled. A change is carried out
 * although its asker has gone, for it was asked for.
 */
async function answerInTime(
  endpoint: Endpoint,
  person: Person,
  response: Response,
  answer: () => Promise<Answer>,
): Promise<Answer> {
  const asker = new Asker(person.number)
  const timer = setTimeout(() => asker.end(tooLate()), endpoint.most ?? late)
  const left = (): void => {
    if (!response.writableFinished && endpoint.who === 'viewer') asker.end(askerLeft())
  }
  response.on('close', left)
  try {
    return await askedBy(asker, answer)
  } catch (error) {
    throw asker.ended ?? error
  } finally {
    clearTimeout(timer)
    response.off('close', left)
  }
}

/** What stands in an address for an identity looks like one, so that nothing else is ever looked up. */
const identityShape = /^[a-z]{2}_[a-z0-9_]{1,60}$/

function judgeParams(params: Readonly<Record<string, string>>): void {
  for (const name of ['id', 'change', 'type'])
    if (params[name] !== undefined && !identityShape.test(params[name]))
      throw notFound('such thing')
}

/** Puts endpoints on the application: schema, who may, call the service, answer. */
export function mount(
  app: Express,
  endpoints: readonly Endpoint[],
  context: (request: Request) => Promise<{ world: World; person: Person; now: Date }>,
): void {
  for (const endpoint of endpoints) {
    app[endpoint.method](
      endpoint.path.replaceAll(/\{(\w+)\}/g, ':$1'),
      async (request: Request, response: Response) => {
        for (let tries = 1; ; tries += 1) {
          const { world, person, now } = await context(request)
          if (roles.indexOf(person.role) < roles.indexOf(endpoint.who))
            throw forbidden(`This takes the role ${endpoint.who}; you are ${person.role}.`)
          judgeParams(request.params as Record<string, string>)
          if (endpoint.body) judge(endpoint.body, request.body)
          const query = Object.fromEntries(
            Object.entries(request.query).map(([key, value]) => [key, String(value)]),
          )
          try {
            const answer = await answerInTime(
              endpoint,
              person,
              response,
              async () =>
                await endpoint.answer({
                  world,
                  person,
                  now,
                  params: request.params as Record<string, string>,
                  query,
                  body: request.body as never,
                  request,
                }),
            )
            return send(response, { ...answer, body: hideIdentities(answer.body, world.hidden) })
          } catch (error) {
            // An edition was published between reading the world and writing in it: nothing was written, and the new world may allow it.
            if (!(error instanceof Problem) || error.more['retry'] !== true || tries >= 5)
              throw error
          }
        }
      },
    )
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

/** The longest key by which a request is known again. */
const longestKey = 200

/** The key by which a creation that is sent twice is made once. @throws Problem 400 when it is too long to keep */
export function keyOf(request: Request): string | undefined {
  const key = request.get('idempotency-key')
  if (key !== undefined && (key === '' || key.length > longestKey))
    throw invalid([
      {
        pointer: '/Idempotency-Key',
        message: `An Idempotency-Key has 1 to ${longestKey} characters.`,
        expected: 'a key made anew for each thing',
        found: `${key.length} characters`,
      },
    ])
  return key
}

/** The version a change is meant for. @throws Problem 428 without one */
export function matchOf(request: Request): string {
  const match = request.get('if-match')
  if (!match)
    throw new Problem(
      428,
      'Say which version',
      'A change needs the header If-Match with the ETag that was read, so that nobody’s work is overwritten unseen.',
    )
  return match
}

/** The OpenAPI document of all endpoints; schemas are the ones requests are judged by. */
export function openApi(endpoints: readonly Endpoint[]): object {
  const paths: Record<string, Record<string, unknown>> = {}
  const problem = {
    description: 'What is wrong (RFC 9457)',
    content: { 'application/problem+json': { schema: { type: 'object' } } },
  }
  for (const { method, path, who, says, body } of endpoints) {
    const parameters = [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({
      name,
      in: 'path',
      required: true,
      schema: { type: 'string' },
    }))
    paths[path] = {
      ...paths[path],
      [method]: {
        summary: says,
        operationId: `${method}${path.replaceAll(/[^a-zA-Z]+(\w?)/g, (_, letter: string) => letter.toUpperCase())}`,
        description: `Takes the role ${who}.`,
        tags: [path.split('/')[3] ?? 'session'],
        ...(parameters.length > 0 ? { parameters } : {}),
        ...(body
          ? { requestBody: { required: true, content: { 'application/json': { schema: body } } } }
          : {}),
        responses: { '200': { description: 'Done' }, '4XX': problem },
      },
    }
  }
  return {
    openapi: '3.1.1',
    info: { title: 'Bluestem', version: '1', license: { name: 'MIT', identifier: 'MIT' } },
    servers: [{ url: '/' }],
    paths,
    security: [{ session: [] }],
    components: {
      securitySchemes: { session: { type: 'apiKey', in: 'cookie', name: 'bluestem' } },
    },
  }
}

import { halves } from '@bluestem/core/known'
import type { AnswerOf, BodyOf, ParamsOf, QueryOf, Route } from '@bluestem/core/contract'
import type { Immutable } from '@bluestem/core/schema'

export interface ProblemPart {
  readonly pointer?: string
  readonly message: string
  readonly expected?: string
  readonly found?: string
  readonly from?: number
  readonly to?: number
  readonly nearest?: string
}

/** A refusal of the server, in its own words. */
export class ApiProblem extends Error {
  readonly status: number
  readonly errors: readonly ProblemPart[]
  readonly more: Readonly<Record<string, unknown>>

  constructor(
    status: number,
    detail: string,
    errors: readonly ProblemPart[],
    more: Readonly<Record<string, unknown>>,
  ) {
    super(detail)
    this.status = status
    this.errors = errors
    this.more = more
  }
}

let open = 0
let signedOut: () => void = () => undefined

/** What to do when the session has ended. */
export const whenSignedOut = (act: () => void): void => {
  signedOut = act
}

/** Says on the page whether requests are under way, for whoever has to wait until they are not. */
function counted(change: 1 | -1): void {
  open += change
  document.documentElement.dataset['requests'] = String(open)
}

export interface Answered<T> {
  readonly body: T
  readonly etag: string
}

/** How often a question is asked again while the server is busy or away, and at most how long is waited before each time, in seconds. */
const [mostTries, longestWait] = [3, 5]

/** Questions that are asked by POST, because they are too long for an address: asking them again does no harm. */
const asks = /^\/(?:items\/search|queries\/check|measures\/evaluate|views\/arrange)/

/** Sends a request; one that changes nothing is sent again when the server says when to come back (RFC 9110, Retry-After). */
async function send(method: string, path: string, init: RequestInit): Promise<Response> {
  for (let tries = 1; ; tries += 1) {
    const response = await fetch(`/api/v1${path}`, init).catch(() => {
      throw new ApiProblem(
        0,
        'Bluestem does not answer. Your work here is kept; try again in a moment.',
        [],
        {},
      )
    })
    const wait = Number(response.headers.get('retry-after'))
    const again =
      response.status === 503 &&
      wait > 0 &&
      wait <= longestWait &&
      (method === 'GET' || asks.test(path))
    if (!again || tries >= mostTries) return response
    await new Promise((done) => window.setTimeout(done, wait * 1000))
  }
}

/** What a request to a route holds: its parameters and body where the contract has any. */
export type RequestOf<Of extends Route> = (unknown extends ParamsOf<Of>
  ? unknown
  : { readonly params: Readonly<Record<keyof ParamsOf<Of>, string | number>> }) &
  ([BodyOf<Of>] extends [undefined] ? unknown : { readonly body: Immutable<BodyOf<Of>> }) & {
    readonly query?: QueryOf<Of>
    /** the version that is meant: an ETag, or the number in one */
    readonly match?: string | number
    readonly headers?: Readonly<Record<string, string>>
  }

/** A request that may be left out where the contract asks for nothing. */
export type RequestArguments<Of extends Route> =
  Readonly<Record<never, never>> extends RequestOf<Of>
    ? [request?: RequestOf<Of>]
    : [request: RequestOf<Of>]

interface LooseRequest {
  readonly params?: Readonly<Record<string, string | number>>
  readonly query?: Readonly<Record<string, string>>
  readonly body?: unknown
  readonly match?: string | number
  readonly headers?: Readonly<Record<string, string>>
}

const addressOf = (path: string, { params = {}, query = {} }: LooseRequest): string => {
  const filled = path.replaceAll(/\{(\w+)\}/g, (_, name: string) =>
    encodeURIComponent(params[name] ?? ''),
  )
  const asked = new URLSearchParams(query).toString()
  return asked === '' ? filled : `${filled}?${asked}`
}

const headersOf = ({ body, match, headers }: LooseRequest): Record<string, string> => ({
  ...(body === undefined ? {} : { 'content-type': 'application/json' }),
  ...(match === undefined ? {} : { 'If-Match': typeof match === 'number' ? `"${match}"` : match }),
  ...headers,
})

/** Calls the API, and tells the version of what it answers. @throws ApiProblem with the server's words, or with what a person can do when it does not answer */
export async function callForVersion<const Of extends Route>(
  route: Of,
  // Only a route that needs nothing lets it out.
  ...[request = {} as RequestOf<Of>]: RequestArguments<Of>
): Promise<Answered<AnswerOf<Of>>> {
  const [method, path] = halves(route, ' ')
  const given: LooseRequest = request
  counted(1)
  try {
    const response = await send(method, addressOf(path, given), {
      method,
      headers: headersOf(given),
      ...(given.body === undefined ? {} : { body: JSON.stringify(given.body) }),
    })
    const text = await response.text()
    const isFile = response.headers.get('content-disposition') !== null
    const read = isFile || text === '' ? text || undefined : (JSON.parse(text) as unknown)
    // The server answers by the contract of the route; its tests judge every answer.
    if (response.ok) return { body: read as AnswerOf<Of>, etag: response.headers.get('etag') ?? '' }
    // What is not well is a problem (RFC 9457).
    const { detail, errors, ...more } = read as { detail: string; errors?: ProblemPart[] } & Record<
      string,
      unknown
    >
    if (response.status === 401 && path !== '/session') signedOut()
    throw new ApiProblem(response.status, detail, errors ?? [], more)
  } finally {
    counted(-1)
  }
}

/** Calls the API. @throws ApiProblem with the server's words, or with what a person can do when it does not answer */
export const call = async <const Of extends Route>(
  route: Of,
  ...request: RequestArguments<Of>
): Promise<AnswerOf<Of>> => (await callForVersion(route, ...request)).body

/** A ref as the parameters of a path. */
export function partsOf(ref: string): { readonly code: string; readonly number: string } {
  const [code = '', number = ''] = ref.split('/')
  return { code, number }
}

/** Every part of what was refused, each in the server's words; one message where it has no parts. */
export const messagesOf = (error: unknown): readonly string[] =>
  error instanceof ApiProblem && error.errors.length
    ? error.errors.map((error) => error.message)
    : [messageOf(error)]

/** The message of whatever went wrong, for the person. */
export const messageOf = (error: unknown): string =>
  error instanceof Error ? error.message : String(error)

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

/** Calls the API. @throws ApiProblem with the server's words, or with what a person can do when it does not answer */
export async function call<T>(
  method: 'GET' | 'POST' | 'PATCH' | 'DELETE',
  path: string,
  body?: unknown,
  headers: Readonly<Record<string, string>> = {},
): Promise<Answered<T>> {
  counted(1)
  try {
    const response = await send(method, path, {
      method,
      headers: {
        ...(body === undefined ? {} : { 'content-type': 'application/json' }),
        ...headers,
      },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    })
    const text = await response.text()
    const read = text === '' ? undefined : (JSON.parse(text) as unknown)
    if (response.ok) return { body: read as T, etag: response.headers.get('etag') ?? '' }
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

export const get = async <T>(path: string): Promise<T> => (await call<T>('GET', path)).body
export const post = async <T>(
  path: string,
  body: unknown,
  headers?: Readonly<Record<string, string>>,
): Promise<T> => (await call<T>('POST', path, body, headers)).body

/** Every part of what was refused, each in the server's words; one message where it has no parts. */
export const messagesOf = (error: unknown): readonly string[] =>
  error instanceof ApiProblem && error.errors.length
    ? error.errors.map((one) => one.message)
    : [messageOf(error)]

/** The message of whatever went wrong, for the person. */
export const messageOf = (error: unknown): string =>
  error instanceof Error ? error.message : String(error)

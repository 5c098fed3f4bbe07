/** One part of a request that is wrong: where, as a JSON pointer, and what would do. */
export interface ProblemDetail {
  readonly pointer?: string
  readonly message: string
  readonly expected?: string
  readonly found?: string
  readonly from?: number
  readonly to?: number
  readonly nearest?: string
}

/** how many things that are wrong an answer tells */
const mostWrong = 20

/** A failure told to whoever asked, as RFC 9457 has it. Everything else is a defect and answers 500. */
export class Problem extends Error {
  readonly status: number
  readonly title: string
  readonly errors: readonly ProblemDetail[]
  readonly more: Readonly<Record<string, unknown>>
  /** seconds after which asking again makes sense (RFC 9110, Retry-After) */
  readonly retryAfter: number | undefined

  constructor(
    status: number,
    title: string,
    detail: string,
    errors: readonly ProblemDetail[] = [],
    more: Readonly<Record<string, unknown>> = {},
    retryAfter?: number,
  ) {
    super(detail)
    this.status = status
    this.title = title
    this.errors = errors
    this.more = more
    this.retryAfter = retryAfter
  }
}

export const notFound = (what: string): Problem =>
  new Problem(404, 'Not found', `There is no ${what}, or you may not see it.`)
export const forbidden = (detail: string): Problem => new Problem(403, 'Not allowed', detail)
/** What is wrong with a request; of very much only the first, for nobody mends more at once. */
export function invalid(errors: readonly ProblemDetail[]): Problem {
  const told = errors.slice(0, mostWrong)
  const left = errors.length - told.length
  const detail = [
    ...told.map((error) => error.message),
    ...(left > 0 ? [`There is more of this kind: ${left} further.`] : []),
  ].join(' ')
  return new Problem(400, 'Not valid', detail, told)
}

export const refused = (
  detail: string,
  errors: readonly ProblemDetail[] = [],
  more: Readonly<Record<string, unknown>> = {},
): Problem => new Problem(409, 'Refused', detail, errors, more)
/** Nothing is wrong with the request; it can be made again after so many seconds. */
export const unavailable = (title: string, detail: string, seconds: number): Problem =>
  new Problem(503, title, detail, [], {}, seconds)
export const tooMany = (detail: string, seconds: number): Problem =>
  new Problem(429, 'Too many tries', detail, [], {}, seconds)
/** @throws Problem 412 when a change was meant for another version than the one that is there; `*` is meant for any */
export function judgeMatch(match: string, etag: string, changed: unknown): void {
  if (match !== '*' && match !== etag) throw stale(changed)
}

export const stale = (changed: unknown): Problem =>
  new Problem(
    412,
    'Changed meanwhile',
    'Somebody changed this since you read it; look at what is there now, then try again.',
    [],
    { changed },
  )

/** What is told where an identity names nobody. */
export const noSuchPerson = (pointer: string, id: string): ProblemDetail => ({
  pointer,
  message: 'There is no such person.',
  expected: 'the identity of a person',
  found: id,
})

/** One part of a request that is wrong: where, as a JSON pointer, and what would do. */
export interface Wrong { readonly pointer?: string; readonly message: string; readonly expected?: string; readonly found?: string; readonly from?: number; readonly to?: number; readonly nearest?: string }

/** A failure told to whoever asked, as RFC 9457 has it. Everything else is a defect and answers 500. */
export class Problem extends Error {
  readonly status: number
  readonly title: string
  readonly errors: readonly Wrong[]
  readonly more: Readonly<Record<string, unknown>>

  constructor(status: number, title: string, detail: string, errors: readonly Wrong[] = [], more: Readonly<Record<string, unknown>> = {}) {
    super(detail)
    this.status = status
    this.title = title
    this.errors = errors
    this.more = more
  }
}

export const notFound = (what: string): Problem => new Problem(404, 'Not found', `There is no ${what}, or you may not see it.`)
export const forbidden = (detail: string): Problem => new Problem(403, 'Not allowed', detail)
export const invalid = (errors: readonly Wrong[]): Problem => new Problem(400, 'Not valid', errors.map((error) => error.message).join(' '), errors)
export const refused = (detail: string, errors: readonly Wrong[] = [], more: Readonly<Record<string, unknown>> = {}): Problem => new Problem(409, 'Refused', detail, errors, more)
/** @throws Problem 412 when a change was meant for another version than the one that is there; `*` is meant for any */
export function judgeMatch(match: string, etag: string, changed: unknown): void {
  if (match !== '*' && match !== etag) throw stale(changed)
}
export const stale = (changed: unknown): Problem => new Problem(412, 'Changed meanwhile', 'Somebody changed this since you read it; look at what is there now, then try again.', [], { changed })

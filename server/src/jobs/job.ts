/** The kinds of jobs, each with what it is about: `mapping` an edition or a merge, `publish` a draft, `bulk` a change of many
 * items, `import` a file. */
export type JobKind = 'mapping' | 'publish' | 'bulk' | 'import'

export interface Job {
  readonly id: number
  readonly kind: string
  readonly subject: string
  readonly byId: number | null
}

/**
 * What a job does. Its progress is what it has changed, so it may be cut off anywhere and run twice without harm.
 *
 * @param signal told when the server stops
 * @returns when to go on, where it is not done
 * @throws JobRefused where it cannot be done for a reason that people are told; every other error is tried again
 */
export type Work = (job: Job, signal: AbortSignal) => Promise<Date | undefined>

/** A job that cannot be done, for a reason that people are told; it is not tried again. */
export class JobRefused extends Error {}

/** What tells a job from all others that are not over. */
export const keyOf = ({ kind, subject }: Pick<Job, 'kind' | 'subject'>): string =>
  `${kind} ${subject}`

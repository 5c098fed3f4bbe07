import { isRecord } from '@bluestem/core/known'
import { invalid, Problem, refused, unavailable } from './problem.ts'

interface DatabaseError {
  readonly code?: string
  readonly constraint?: string
  readonly message?: string
}

/** The database's own error inside what Sequelize or the driver throws. */
const originalOf = (error: unknown): DatabaseError => {
  const thrown = isRecord(error) ? error : {}
  const { code, constraint, message } = isRecord(thrown['parent']) ? thrown['parent'] : thrown
  return {
    ...(typeof code === 'string' ? { code } : {}),
    ...(typeof constraint === 'string' ? { constraint } : {}),
    ...(typeof message === 'string' ? { message } : {}),
  }
}

/** The code of a database error (SQLSTATE), where there is one. */
export const codeOf = (error: unknown): string | undefined => originalOf(error).code

const away = new Set(['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT'])
const lost =
  /Connection terminated|Client has encountered a connection error|Client was closed|the database system is|ConnectionManager.getConnection was called after/

/** What each unique index keeps apart, as people read it. */
const twins: Readonly<Record<string, string>> = {
  label_title: 'a label of this title',
  component_title: 'a component of this title in this project',
  team_title: 'a team of this title',
  project_code_key: 'a project with this code',
  item_ref: 'an item of this number',
  person_email_key: 'a person with this e-mail address',
}

/** What a database that does not answer is told as. */
const awayProblem = (): Problem =>
  unavailable(
    'The database is away',
    'The database does not answer at the moment; nothing was changed. It is being brought back.',
    3,
  )

/** What each failure means, by the code of PostgreSQL (its manual, appendix A). */
const problemOfCode: Record<string, (constraint: string) => Problem> = {
  '23505': (constraint) =>
    refused(
      `Somebody made ${twins[constraint] ?? 'the same'} at this moment; look at what is there now.`,
    ),
  '23503': () =>
    refused(
      'Something this rests on, or that rests on this, was changed at the same moment; look at what is there now.',
    ),
  '40001': changedAtOnce,
  '40P01': changedAtOnce,
  '55P03': () =>
    unavailable(
      'Busy',
      'What this would change is being used at the moment; nothing was changed. Try again soon.',
      2,
    ),
  '57014': () =>
    unavailable(
      'Took too long',
      'This took too long and was stopped; nothing was changed. Narrow it, for example to one project or type.',
      5,
    ),
  '53100': () =>
    unavailable(
      'No room',
      'The disk of the database is full; nothing was changed. Make room, then try again.',
      60,
    ),
  '25006': awayProblem,
}

function changedAtOnce(): Problem {
  return new Problem(
    409,
    'Refused',
    'Others changed the same things at this moment; try again.',
    [],
    { again: true },
    1,
  )
}

/** Classes of codes: a database without resources, one that is shutting down, a lost connection. */
const awayClasses = ['53', '57P', '08']

/**
 * What a failure of the database means for whoever asked: two who did the same at one moment, a value no column can hold, a statement
 * that was ended, or a database that is away. Undefined for what is a defect of ours.
 */
export function problemOf(error: unknown): Problem | undefined {
  if (error instanceof Problem) return error
  const { code = '', constraint = '', message = '' } = originalOf(error)
  const known = problemOfCode[code]
  if (known) return known(constraint)
  const name = error instanceof Error ? error.name : ''
  const isAway =
    awayClasses.some((start) => code.startsWith(start)) ||
    away.has(code) ||
    lost.test(message) ||
    /^SequelizeConnection|^SequelizeHostNotFound/.test(name)
  if (isAway) return awayProblem()
  if (!code.startsWith('22')) return undefined
  return invalid([
    {
      message:
        'A value in this request cannot be computed or kept: it is too large, or of another kind than what it stands beside.',
      expected: 'another value',
    },
  ])
}

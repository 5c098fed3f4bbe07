import { verify } from '@node-rs/argon2'
import type { PasswordChange } from '@bluestem/core/people'
import type { Sequelize } from 'sequelize'
import { auditorOf } from '../audit/recorder.ts'
import { inTransaction } from '../database/connect.ts'
import { modelsOf } from '../database/models/models.ts'
import type { RequestContext } from '../http/endpoint.ts'
import { invalid } from '../problems/problem.ts'
import { hashPassword } from './session.ts'
import { endSessions } from './sessions.ts'

const recorded = auditorOf('person')

/** Changes one's own password. @throws Problem 400 where the one before is not right */
export async function changePassword(
  database: Sequelize,
  context: RequestContext<'POST /session/password'>,
  { before, after }: PasswordChange,
): Promise<void> {
  const { person, request } = context
  const people = modelsOf(database).person
  const stored = await people.findByPk(person.number)
  if (!stored?.password || !(await verify(stored.password, before)))
    throw invalid([
      {
        pointer: '/before',
        message: 'This is not your password as it is now.',
        expected: 'the password you signed in by',
      },
    ])
  const hashed = await hashPassword(after)
  await inTransaction(database, async () => {
    await people.update({ password: hashed }, { where: { id: person.number } })
    await endSessions(database, person.number, request.sessionID)
    await recorded(database, context, 'changed their password', person.id, {})
  })
}

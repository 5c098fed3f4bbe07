import { hash, verify } from '@node-rs/argon2'
import type { Sequelize } from 'sequelize'
import { modelsOf } from '../database/models/models.ts'
import { Problem } from '../problems/problem.ts'

declare module 'express-session' {
  interface SessionData {
    person: number
  }
}

/** 19 MiB and two passes: OWASP's recommendation for argon2id (from memory). */
const settings = { memoryCost: 19_456, timeCost: 2, parallelism: 1 }

export const hashPassword = async (password: string): Promise<string> =>
  await hash(password, settings)

/** A hash nobody has the password of: unknown names take as long as known ones. */
let nobody: Promise<string> | undefined

/** The number of the person with this e-mail and password. @throws Problem 401, the same whichever of the two is wrong */
export async function signIn(
  database: Sequelize,
  email: string,
  password: string,
): Promise<number> {
  const person = await modelsOf(database).person.findOne({
    where: { email: email.trim().toLowerCase(), active: true },
  })
  nobody ??= hashPassword('nobody has this password')
  const right = await verify(person?.password ?? (await nobody), password)
  if (!person?.password || !right)
    throw new Problem(401, 'Not signed in', 'The e-mail address or the password is not right.')
  return person.id
}

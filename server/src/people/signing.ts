import { firstIn } from '@bluestem/core/known'
import { AcceptedInvitation, InvitationSecret, SignIn } from '@bluestem/core/people'
import type { Express, NextFunction, Request, RequestHandler, Response } from 'express'
import type { Sequelize } from 'sequelize'
import { judge } from '../http/judge.ts'
import { signInLimits } from '../http/limits.ts'
import type { Worlds } from '../workspace/world.ts'
import { acceptInvitation, readInvitation } from './invitation.ts'
import { signIn } from './session.ts'

interface Signing {
  readonly database: Sequelize
  readonly worlds: Worlds
  readonly live: { endSession(id: string): Promise<void> }
  readonly clock: () => Date
  /** sign-ins allowed a minute from one address */
  readonly signIns: number
}

/** Waits for a change of the session’s store. */
const settled = async (change: (done: (error?: Error) => void) => void): Promise<void> =>
  await new Promise((done, failedTo) => change((error) => (error ? failedTo(error) : done())))

const judged =
  (body: Parameters<typeof judge>[0]): RequestHandler =>
  (request: Request, _: Response, next: NextFunction): void => {
    judge(body, request.body)
    next()
  }

/** Begins a session of a person. */
async function beginSession(request: Request, person: number): Promise<void> {
  await settled((done) => request.session.regenerate(done))
  request.session.person = person
  // Headers leave before the store is written at the end; whoever has the cookie is known already.
  await settled((done) => request.session.save(done))
}

/** What nobody need be signed in for: signing in and out, and coming by an invitation. */
export function signing(app: Express, { database, worlds, live, clock, signIns }: Signing): void {
  const limits = signInLimits(database, signIns)
  app.post('/api/v1/session', judged(SignIn), ...limits, async (request, response) => {
    // It was judged before.
    const { email, password } = request.body as SignIn
    await beginSession(request, await signIn(database, email, password))
    response.status(201).json({})
  })
  app.delete('/api/v1/session', async (request, response) => {
    await live.endSession(request.sessionID)
    await settled((done) => request.session.destroy(done))
    response.clearCookie('bluestem').status(204).end()
  })
  app.post(
    '/api/v1/invitation',
    judged(InvitationSecret),
    firstIn(limits),
    async (request, response) => {
      // It was judged before.
      const { secret } = request.body as InvitationSecret
      response.json(await readInvitation(database, worlds, secret, clock()))
    },
  )
  app.post(
    '/api/v1/invitation/accepted',
    judged(AcceptedInvitation),
    firstIn(limits),
    async (request, response) => {
      // It was judged before.
      const accepted = request.body as AcceptedInvitation
      await beginSession(request, await acceptInvitation(database, worlds, accepted, clock()))
      response.status(201).json({})
    },
  )
}

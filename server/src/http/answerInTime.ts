import { RequestWork, runAs } from '../database/asker.ts'
import type { Response } from 'express'
import { type Problem, unavailable } from '../problems/problem.ts'
import type { Person } from '../workspace/living.ts'

/** How long a request may take, in milliseconds, before what it runs is ended. */
export const late = 20000
export const tooLate = (): Problem =>
  unavailable(
    'Took too long',
    'This took longer than 20 seconds and was stopped; nothing was changed. Narrow it, for example to one project or type.',
    5,
  )
export const askerLeft = (): Problem =>
  unavailable('Gone', 'Whoever asked did not wait for the answer.', 1)
/**
 * Answers within a time: past it, or when whoever reads has gone, what runs in the database is cancelled. A change is carried out
 * although its asker has gone, for it was asked for.
 */
export async function answerInTime<Answer>(
  endpoint: { readonly role: string; readonly timeout?: number },
  person: Person,
  response: Response,
  answer: () => Promise<Answer>,
): Promise<Answer> {
  const asker = new RequestWork(person.number)
  const timer = setTimeout(() => asker.end(tooLate()), endpoint.timeout ?? late)
  const left = (): void => {
    if (!response.writableFinished && endpoint.role === 'viewer') asker.end(askerLeft())
  }
  response.on('close', left)
  try {
    return await runAs(asker, answer)
  } catch (error) {
    throw asker.ended ?? error
  } finally {
    clearTimeout(timer)
    response.off('close', left)
  }
}

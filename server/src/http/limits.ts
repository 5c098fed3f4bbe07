import { isRecord } from '@bluestem/core/known'
import { createHash } from 'node:crypto'
import {
  type ClientRateLimitInfo,
  ipKeyGenerator,
  type Options,
  rateLimit,
  type RateLimitRequestHandler,
  type Store,
} from 'express-rate-limit'
import type { Sequelize } from 'sequelize'
import { modelsOf } from '../database/models/models.ts'
import { countAttempt, uncountAttempt } from '../sql/attempts.ts'
import { tooMany } from '../problems/problem.ts'

/** Counts attempts in PostgreSQL, a row for each key and window, so that several processes agree on who asks too often. */
class AttemptStore implements Store {
  readonly #database: Sequelize
  readonly prefix: string
  #window = 60_000

  constructor(database: Sequelize, prefix: string) {
    this.#database = database
    this.prefix = prefix
  }

  init({ windowMs }: Options): void {
    this.#window = windowMs
  }

  async increment(key: string): Promise<ClientRateLimitInfo> {
    const { hits, ends } = await countAttempt(this.#database, this.prefix + key, this.#window)
    return { totalHits: hits, resetTime: ends }
  }

  async decrement(key: string): Promise<void> {
    await uncountAttempt(this.#database, this.prefix + key)
  }

  async resetKey(key: string): Promise<void> {
    await modelsOf(this.#database).attempt.destroy({ where: { key: this.prefix + key } })
  }
}

const minute = 60_000
/** Wrong passwords for one account in ten minutes, from wherever they come. */
const wrongPasswords = 10
const tooOften = 'Too many sign-ins; wait a moment.'

function limiter(
  database: Sequelize,
  prefix: string,
  says: string,
  more: Partial<Options>,
): RateLimitRequestHandler {
  return rateLimit({
    windowMs: minute,
    standardHeaders: 'draft-8',
    legacyHeaders: false,
    store: new AttemptStore(database, prefix),
    handler: (_, response) => {
      throw tooMany(says, Number(response.getHeader('Retry-After')) || 60)
    },
    ...more,
  })
}

/** Tries to sign in: by the address they come from, and, for wrong passwords, by the account. */
export function signInLimits(database: Sequelize, signIns: number): RateLimitRequestHandler[] {
  const account = (email: unknown): string =>
    createHash('sha256').update(String(email).trim().toLowerCase()).digest('base64url')
  return [
    limiter(database, 'sign-in ', tooOften, {
      limit: signIns,
      keyGenerator: (request) => ipKeyGenerator(request.ip ?? ''),
    }),
    limiter(database, 'account ', tooOften, {
      windowMs: 10 * minute,
      limit: Math.max(wrongPasswords, signIns / 2),
      skipSuccessfulRequests: true,
      keyGenerator: (request) =>
        account(isRecord(request.body) ? request.body['email'] : undefined),
    }),
  ]
}

/** Changes of one person in a minute. */
export const writeLimit = (database: Sequelize, writes: number): RateLimitRequestHandler =>
  limiter(
    database,
    'write ',
    'You change more in a minute than anybody does by hand; go on in a moment.',
    {
      limit: writes,
      keyGenerator: (request) => String(request.session.person),
      skip: (request) =>
        request.session.person === undefined ||
        ['GET', 'HEAD', 'OPTIONS'].includes(request.method) ||
        readingPosts.has(request.baseUrl + request.path),
    },
  )

/** Questions that are too long for an address. */
const readingPosts = new Set([
  '/api/v1/items/search',
  '/api/v1/queries/check',
  '/api/v1/queries/explain',
  '/api/v1/measures/evaluate',
  '/api/v1/views/arrange',
  '/api/v1/definitions/scores/preview',
  '/api/v1/definitions/differences',
])

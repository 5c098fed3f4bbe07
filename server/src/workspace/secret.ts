import { createHash, randomBytes } from 'node:crypto'

/** What an address holds that nobody can guess: 256 bits. */
export const newSecret = (): string => randomBytes(32).toString('base64url')

/** What is kept of a secret, by which it is known again. */
export const digestOf = (secret: string): string =>
  createHash('sha256').update(secret).digest('hex')

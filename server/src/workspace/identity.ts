import { randomBytes } from 'node:crypto'
import { makeIdentity } from '@bluestem/core/definitions'

export const newIdentity = (prefix: string): string => makeIdentity(prefix, randomBytes(8))

import type { Refusal } from '@bluestem/core/work'
import { invalid, type Problem, refused } from '../problems/problem.ts'

/** A refusal as it is told to whoever asked. */
export const problemOf = (refusal: Refusal): Problem =>
  refusal.kind === 'invalid'
    ? invalid(refusal.wrong)
    : refused(refusal.message, refusal.wrong, refusal.more)

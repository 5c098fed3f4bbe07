import { firstIn } from '@bluestem/core/known'
import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'
import { codeOf } from '../problems/failure.ts'
import { invalid } from '../problems/problem.ts'
import type { Statement } from './statement.ts'

/** Runs a statement; a figure that grows beyond what a database computes is the question's fault, not a defect. */
export async function queryRows<T extends object>(
  database: Sequelize,
  statement: Statement,
): Promise<T[]> {
  try {
    return await rows<T>(database, statement.sql, statement.bind)
  } catch (error) {
    if (codeOf(error) === '22003')
      throw invalid([
        {
          pointer: '/filter',
          message: 'A number in this query grows beyond what can be computed.',
          expected: 'smaller numbers',
        },
      ])
    throw error
  }
}

export const count = async (database: Sequelize, statement: Statement): Promise<number> =>
  firstIn(await queryRows<{ total: number }>(database, statement)).total

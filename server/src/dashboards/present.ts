import type { Sequelize } from 'sequelize'
import { figureStatement } from '../sql/measure.ts'
import { queryRows } from '../sql/run.ts'
import type { FigureQuestion, FigureValues } from './figureQuestion.ts'

/** A figure at the one moment of its question. */
export async function present(
  database: Sequelize,
  { queryContext, condition, source, by }: FigureQuestion,
): Promise<FigureValues> {
  const found = await queryRows<{ whole: boolean; key: string | null; value: number | null }>(
    database,
    figureStatement(queryContext, condition, source, by),
  )
  return {
    method: queryContext.asOf ? 'as of' : 'present',
    groups: new Map(found.filter((row) => !row.whole).map((row) => [row.key, [row.value]])),
    total: [found.find((row) => row.whole)?.value ?? null],
  }
}

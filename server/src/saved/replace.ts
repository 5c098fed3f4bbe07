import { replacedIn } from '@bluestem/core/definitions'
import type { Sequelize } from 'sequelize'
import { rows, run } from '../database/connect.ts'

/** What is kept and may name a label, a component or anything else by its identity. */
const kinds = ['query', 'view', 'measure', 'dashboard', 'template', 'team'] as const

/** Lets everything kept name one identity instead of another, for something that became one with something else. */
export async function replaceNamed(database: Sequelize, from: string, into: string): Promise<void> {
  for (const kind of kinds) {
    const found = await rows<{ id: number; content: unknown }>(
      database,
      `SELECT id, content FROM ${kind} WHERE content::text LIKE '%' || $1 || '%' FOR UPDATE`,
      [`"${from}"`],
    )
    for (const { id, content } of found)
      await run(
        database,
        `UPDATE ${kind} SET content = $2::jsonb, version = version + 1 WHERE id = $1`,
        [id, JSON.stringify(replacedIn(content, from, into))],
      )
  }
}

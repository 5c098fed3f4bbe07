import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'

/** Texts in the order in which questions sort them. */
export async function sortTexts(database: Sequelize, texts: readonly string[]): Promise<string[]> {
  const sorted = await rows<{ text: string }>(
    database,
    `SELECT text FROM unnest($1::text[]) AS text ORDER BY text COLLATE "und-x-icu", text COLLATE "C"`,
    [texts],
  )
  return sorted.map((entry) => entry.text)
}

import { firstIn } from '@bluestem/core/known'
import { AsyncLocalStorage } from 'node:async_hooks'
import { setTimeout as pause } from 'node:timers/promises'
import pg from 'pg'
import { QueryTypes, Sequelize } from 'sequelize'
import { presentWork } from './asker.ts'
import { codeOf } from '../problems/failure.ts'
import { preparingDriver } from './prepared.ts'
import { defineModels } from './models/models.ts'

// Days travel as YYYY-MM-DD, moments as milliseconds; bigint counts fit a number.
pg.types.setTypeParser(pg.types.builtins.DATE, (text: string) => text)
pg.types.setTypeParser(pg.types.builtins.INT8, Number)

const transactions = new AsyncLocalStorage<Map<string, unknown>>()

Sequelize.useCLS({
  bind: (f: unknown) => f,
  get: (key: string) => transactions.getStore()?.get(key),
  set: (key: string, value: unknown) => (transactions.getStore()?.set(key, value), value),
  run: (f: (store: unknown) => unknown) =>
    transactions.run(new Map(transactions.getStore()), () => f(transactions.getStore())),
  runPromise: (f: (store: unknown) => unknown) =>
    transactions.run(new Map(transactions.getStore()), () => f(transactions.getStore())),
  runAndReturn: (f: (store: unknown) => unknown) =>
    transactions.run(new Map(transactions.getStore()), () => f(transactions.getStore())),
})

/** Opens the pool. A statement that runs longer than `statementTimeout` milliseconds is cut off. */
export function connect(url: string, { max = 10, statementTimeout = 60_000 } = {}): Sequelize {
  const database = new Sequelize(url, {
    dialect: 'postgres',
    dialectModule: preparingDriver,
    logging: false,
    pool: { max, min: 0, idle: 10_000, acquire: 20_000 },
    dialectOptions: {
      statement_timeout: statementTimeout,
      idle_in_transaction_session_timeout: 60_000,
      keepAlive: true,
      application_name: 'bluestem',
    },
    define: { timestamps: false, freezeTableName: true, underscored: true },
  })
  shareConnections(database)
  defineModels(database)
  return database
}

/** Lets every statement, of a model or written out, take a connection within the share of whoever asked. */
function shareConnections(database: Sequelize): void {
  type Query = (sql: unknown, options?: { readonly transaction?: unknown }) => Promise<unknown>
  // Sequelize types this function by some forty overloads; here its arguments only pass through.
  const query = database.query.bind(database) as Query
  // What begins, ends or is part of a transaction has the connection of that transaction.
  const shared: Query = async (sql, options) =>
    options?.transaction
      ? await query(sql, options)
      : await holding(async () => await query(sql, options))
  // As above: what it takes and gives is as before.
  database.query = shared as typeof database.query
}

/** Runs work that takes a connection, within the share of whoever asked; inside a transaction it has one already. */
async function holding<T>(work: () => Promise<T>): Promise<T> {
  const asker = presentWork()
  return asker && !transactions.getStore()?.get('transaction')
    ? await asker.holding(work)
    : await work()
}

/** Runs a statement with bind parameters and gives its rows. */
export async function rows<T extends object>(
  database: Sequelize,
  sql: string,
  bind: readonly unknown[] = [],
): Promise<T[]> {
  return await database.query<T>(sql, { bind: [...bind], type: QueryTypes.SELECT })
}

/** Runs a statement that always gives a row, and gives the first. */
export const row = async <T extends object>(
  database: Sequelize,
  sql: string,
  bind: readonly unknown[] = [],
): Promise<T> => firstIn(await rows<T>(database, sql, bind))

/** Runs a statement whose rows do not matter. */
export async function run(
  database: Sequelize,
  sql: string,
  bind: readonly unknown[] = [],
): Promise<void> {
  // Without values the text may hold several statements.
  await database.query(sql, {
    ...(bind.length > 0 ? { bind: [...bind] } : {}),
    type: QueryTypes.RAW,
  })
}

/** Runs work in one transaction, anew when it lost a race that the database could not settle (serialization failure, deadlock). */
export async function inTransaction<T>(database: Sequelize, work: () => Promise<T>): Promise<T> {
  for (let tries = 1; ; tries += 1) {
    try {
      return await holding(async () => await database.transaction(work))
    } catch (error) {
      const code = codeOf(error)
      if (tries >= 8 || (code !== '40001' && code !== '40P01')) throw error
      await pause(Math.random() * 20 * tries)
    }
  }
}

import { AsyncLocalStorage } from 'node:async_hooks'
import pg from 'pg'
import { QueryTypes, Sequelize } from 'sequelize'

// Days travel as YYYY-MM-DD, moments as milliseconds; bigint counts fit a number.
pg.types.setTypeParser(pg.types.builtins.DATE, (text: string) => text)
pg.types.setTypeParser(pg.types.builtins.INT8, Number)

const transactions = new AsyncLocalStorage<Map<string, unknown>>()

Sequelize.useCLS({
  bind: (f: unknown) => f,
  get: (key: string) => transactions.getStore()?.get(key),
  set: (key: string, value: unknown) => (transactions.getStore()?.set(key, value), value),
  run: (f: (store: unknown) => unknown) => transactions.run(new Map(transactions.getStore()), () => f(transactions.getStore())),
  runPromise: (f: (store: unknown) => unknown) => transactions.run(new Map(transactions.getStore()), () => f(transactions.getStore())),
  runAndReturn: (f: (store: unknown) => unknown) => transactions.run(new Map(transactions.getStore()), () => f(transactions.getStore())),
} as never)

/** Opens the pool. A statement that runs longer than `statementTimeout` milliseconds is cut off. */
export function connect(url: string, { max = 10, statementTimeout = 60_000 } = {}): Sequelize {
  return new Sequelize(url, {
    dialect: 'postgres', logging: false,
    pool: { max, min: 0, idle: 10_000, acquire: 20_000 },
    dialectOptions: { statement_timeout: statementTimeout, idle_in_transaction_session_timeout: 60_000, keepAlive: true, application_name: 'bluestem' },
    define: { timestamps: false, freezeTableName: true, underscored: true },
  })
}

/** Runs a statement with bind parameters and gives its rows. */
export async function rows<T extends object>(database: Sequelize, sql: string, bind: readonly unknown[] = []): Promise<T[]> {
  return await database.query<T>(sql, { bind: [...bind], type: QueryTypes.SELECT })
}

/** Runs a statement whose rows do not matter. */
export async function run(database: Sequelize, sql: string, bind: readonly unknown[] = []): Promise<void> {
  // Without values the text may hold several statements.
  await database.query(sql, { ...(bind.length > 0 ? { bind: [...bind] } : {}), type: QueryTypes.RAW })
}

/** Runs work in one transaction, anew when it lost a race that the database could not settle (serialization failure, deadlock). */
export async function inTransaction<T>(database: Sequelize, work: () => Promise<T>): Promise<T> {
  for (let tries = 1; ; tries += 1) {
    try {
      return await database.transaction(work)
    } catch (error) {
      const code = (error as { parent?: { code?: string } }).parent?.code
      if (tries >= 5 || (code !== '40001' && code !== '40P01')) throw error
    }
  }
}

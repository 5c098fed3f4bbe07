import pg from 'pg'

/** A pool for the queue of jobs. A connection that is lost is replaced at the next statement. */
export function queuePool(config: pg.PoolConfig): pg.Pool {
  const pool = new pg.Pool({ application_name: 'bluestem jobs', ...config })
  pool.on('error', () => undefined)
  pool.on('connect', (client) => client.on('error', () => undefined))
  return pool
}

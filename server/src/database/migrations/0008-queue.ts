import { run } from '../connect.ts'
import type { Migration } from './migration.ts'

/** Jobs wait in the queue, whose tables are its own; what waits already goes there. Our record says who asked, how far it is and how it ended. */
export const queue: Migration = {
  name: '0008-queue',
  up: async (database) => {
    await run(
      database,
      `ALTER TABLE job ADD COLUMN cancelled_by int REFERENCES person;
      DROP INDEX waiting_jobs;
      CREATE INDEX open_jobs ON job (kind, subject) WHERE finished_at IS NULL;
      SELECT graphile_worker.add_job(kind, json_build_object('job', id), run_at => run_at, job_key => kind || ' ' || subject)
      FROM job WHERE finished_at IS NULL`,
    )
  },
}

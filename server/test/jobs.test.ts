import { setTimeout as pause } from 'node:timers/promises'
import type { JobAnswer } from '@bluestem/core/jobs'
import pg from 'pg'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { inTransaction, rows, run } from '../src/database/connect.ts'
import { modelsOf } from '../src/database/models/models.ts'
import { JobRefused, type Work } from '../src/jobs/job.ts'
import { prune } from '../src/jobs/prune.ts'
import { addJob } from '../src/jobs/queue.ts'
import { claimProcess } from '../src/sql/queue.ts'
import { jobWorker, runJobs } from './jobWorker.ts'
import { testNow } from './setup.ts'
import { type Caller, type Served, serveWorkspace } from './workspace.ts'

let served: Served
let mara: Caller
const clock = (): Date => testNow
const done: Work = async () => await Promise.resolve(undefined)

beforeAll(async () => {
  served = await serveWorkspace()
  mara = await served.signIn('Mara Thiel')
})
afterAll(async () => await served.close())

const add = async (subject: string, by: number | null = null): Promise<void> =>
  await addJob(served.database, { kind: 'mapping', subject, at: testNow, by, total: 3 }, testNow)
const all = async (): Promise<readonly JobAnswer[]> => (await mara('GET', '/jobs')).body.jobs
const told = async (key: string): Promise<JobAnswer | undefined> =>
  (await all()).find((job) => job.key === key)

/** Waits until something is true, at most so many seconds. */
async function until(seconds: number, holds: () => Promise<boolean>): Promise<void> {
  for (const end = Date.now() + seconds * 1000; Date.now() < end; await pause(200))
    if (await holds()) return
  throw new Error(`it did not come true within ${seconds} s`)
}

/** Lets a process of that name hold a job, as if it worked on it. */
const holdAs = async (name: string, key: string): Promise<void> =>
  await run(
    served.database,
    'UPDATE graphile_worker._private_jobs SET locked_at = now(), locked_by = $1 WHERE key = $2',
    [name, key],
  )

describe('a job', () => {
  it('is gone with the transaction it was put in line by', async () => {
    await expect(
      inTransaction(served.database, async () => {
        await add('900')
        throw new Error('undone')
      }),
    ).rejects.toThrow('undone')
    expect(await told('mapping 900')).toBeUndefined()
  })

  it('is told as it stands: waiting, done, refused with its reason', async () => {
    await add('901')
    await add('902')
    expect(await told('mapping 901')).toEqual({
      key: 'mapping 901',
      kind: 'mapping',
      title: 'Rewrite items for edition 901',
      by: null,
      state: 'waiting',
      at: expect.any(String) as string,
      done: 0,
      total: 3,
      attempts: 0,
      reason: null,
      cancellable: false,
    })
    await runJobs(served, clock, {
      mapping: async (job) => {
        if (job.subject === '902') throw new JobRefused('There is nothing to do it to.')
        return await done(job, AbortSignal.abort())
      },
    })
    expect(await told('mapping 901')).toMatchObject({ state: 'done', reason: null })
    expect(await told('mapping 902')).toMatchObject({
      state: 'refused',
      reason: 'There is nothing to do it to.',
    })
  })

  it('is tried again after growing pauses when it fails, or at once when asked', async () => {
    await add('903')
    const failing: Work = async () => await Promise.reject(new Error('the disk is full'))
    const pauses: number[] = []
    for (let tries = 1; tries <= 3; tries += 1) {
      await run(
        served.database,
        `UPDATE graphile_worker._private_jobs SET run_at = now() WHERE key = 'mapping 903'`,
      )
      const worker = jobWorker(served, clock, { mapping: failing })
      await worker.runDue()
      await worker.stop()
      const failed = (await told('mapping 903'))!
      expect(failed).toMatchObject({ state: 'tried again', attempts: tries })
      expect(failed.reason).toBe('the disk is full')
      pauses.push(Date.parse(failed.at) - testNow.getTime())
    }
    expect(pauses).toEqual(pauses.toSorted((a, b) => a - b))
    expect(pauses[2]!).toBeGreaterThan(2 * pauses[0]!)
    expect((await mara('POST', '/jobs/mapping%20903/try', {})).status).toBe(204)
    expect(await told('mapping 903')).toMatchObject({ state: 'waiting', attempts: 0 })
    const worker = jobWorker(served, clock, { mapping: done })
    await worker.runDue()
    await worker.stop()
    expect(await told('mapping 903')).toMatchObject({ state: 'done' })
    expect((await mara('POST', '/jobs/mapping%20903/try', {})).status).toBe(404)
  })

  it('goes on later, where it is not done, as the same job', async () => {
    await add('904')
    let times = 0
    const work: Work = async () => await Promise.resolve((times += 1) < 3 ? testNow : undefined)
    await runJobs(served, clock, { mapping: work })
    expect(times).toBe(3)
    expect((await all()).filter((job) => job.key === 'mapping 904')).toMatchObject([
      { state: 'done' },
    ])
  })

  it('is cancelled where it may be left, and told so', async () => {
    const made = await mara('POST', '/definitions/drafts', {
      title: 'Later',
      edits: [{ path: ['statuses', 'st_open', 'description'], after: 'Not begun.' }],
    })
    const publish = async (at: string): Promise<number> =>
      (await mara('POST', `/definitions/drafts/${made.body.id}/publish`, { at }, any)).status
    expect(await publish('2026-11-26T08:00:00Z')).toBe(202)
    // A new time replaces the old one; it stays one job.
    expect(await publish('2026-11-26T09:00:00Z')).toBe(202)
    const key = `publish ${made.body.id}`
    const waiting = (await all()).filter((job) => job.key === key)
    expect(waiting).toMatchObject([
      { title: 'Publish “Later”', by: 'Mara Thiel', state: 'waiting', cancellable: true },
    ])
    expect(Math.abs(Date.parse(waiting[0]!.at) - Date.parse('2026-11-26T09:00:00Z'))).toBeLessThan(
      60_000,
    )
    const address = `/jobs/${encodeURIComponent(key)}`
    expect((await mara('DELETE', address)).status).toBe(204)
    expect(await told(key)).toMatchObject({
      state: 'cancelled',
      reason: 'Cancelled by Mara Thiel.',
      cancellable: false,
    })
    expect((await mara('GET', `/definitions/drafts/${made.body.id}`)).body.schedule).toBeNull()
    expect((await mara('DELETE', address)).status).toBe(404)
    await publish('2026-11-26T10:00:00Z')
    await mara('DELETE', `/definitions/drafts/${made.body.id}`, undefined, any)
    expect(await told(key)).toMatchObject({ state: 'cancelled' })
    await add('905')
    expect((await mara('DELETE', '/jobs/mapping%20905')).body.detail).toContain(
      'must come to its end',
    )
    await runJobs(served, clock, { mapping: done })
  })

  it('is shown to administrators alone', async () => {
    const tom = await served.signIn('Tom Okafor')
    expect(
      await Promise.all(
        [
          ['GET', '/jobs'],
          ['POST', '/jobs/mapping%20901/try'],
          ['DELETE', '/jobs/mapping%20901'],
        ].map(async ([method, path]) => (await tom(method!, path!)).status),
      ),
    ).toEqual([403, 403, 403])
  })
})

const any = { 'if-match': '*' }

describe('a job whose process ended', () => {
  it('is freed for another once it died; one that lives keeps its own', async () => {
    await add('906')
    await add('907')
    await holdAs('pool-dead', 'mapping 906')
    await holdAs('pool-living', 'mapping 907')
    const living = new pg.Client({ connectionString: served.url })
    await living.connect()
    await claimProcess(living, 'pool-living')
    const worker = jobWorker(served, clock, { mapping: done })
    worker.start()
    try {
      await until(20, async () => (await told('mapping 906'))?.state === 'done')
      expect(await told('mapping 907')).toMatchObject({ state: 'at work' })
      // Its connection ends with it, and the next look finds that.
      await living.end()
      await until(30, async () => (await told('mapping 907'))?.state === 'done')
    } finally {
      await worker.stop()
    }
    const [held] = await rows<{ count: number }>(
      served.database,
      'SELECT count(*) FROM graphile_worker.jobs WHERE locked_by IS NOT NULL',
    )
    expect(held!.count).toBe(0)
  })

  it('goes on when a server stops in the midst of it', async () => {
    await add('908')
    let begun = 0
    const slow: Work = async (_, signal) => {
      begun += 1
      while (!signal.aborted) await pause(20)
      return testNow
    }
    const first = jobWorker(served, clock, { mapping: slow })
    first.start()
    await until(20, async () => await Promise.resolve(begun === 1))
    await first.stop()
    expect(await told('mapping 908')).toMatchObject({ state: 'waiting', attempts: 0 })
    await runJobs(served, clock, { mapping: done })
    expect(await told('mapping 908')).toMatchObject({ state: 'done' })
  })

  it('leaves nothing of what is over for 30 days', async () => {
    await modelsOf(served.database).job.update(
      { finishedAt: new Date('2026-10-01T00:00:00Z') },
      { where: { subject: '908' } },
    )
    expect(await told('mapping 908')).toBeUndefined()
    await prune(served.database, testNow)
    expect(await modelsOf(served.database).job.count({ where: { subject: '908' } })).toBe(0)
  })
})

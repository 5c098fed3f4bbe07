import { beforeAll, describe, expect, it } from 'vitest'
import { buildServerWhenStale } from '../../scripts/build.mjs'
import { writeUnderFire, type WritingReport } from './fire/writers.ts'

// The long one writes for a minute: npm run test:long.
const isLong = process.env['BLUESTEM_LONG'] !== undefined

/** How many kills and how many acknowledged writes make it worth looking at what is left. */
const [kills, writes] = isLong ? [9, 1001] : [3, 60]

describe('twenty who write on the same items while the server is killed', () => {
  let report: WritingReport
  beforeAll(async () => {
    await buildServerWhenStale()
    report = await writeUnderFire({
      writers: 20,
      items: 200,
      lasting: isLong ? 60_000 : 0,
      kills,
      writes,
      within: isLong ? 6000 : 2500,
      seed: 11,
    })
    if (isLong) console.log(JSON.stringify(report))
  }, 300_000)

  it('write enough, under enough kills', () => {
    expect(report.kills).toBeGreaterThanOrEqual(kills)
    expect(report.acknowledged).toBeGreaterThanOrEqual(writes)
  })
  it('miss nothing that was acknowledged', () => {
    expect(report.missing).toEqual([])
  })
  it('find nothing written twice', () => {
    expect(report.doubled).toEqual([])
  })
  it('leave no gap in any history, and every count of comments right', () => {
    expect([report.gaps, report.miscounted]).toEqual([0, 0])
  })
})

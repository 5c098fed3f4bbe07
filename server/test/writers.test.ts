import { beforeAll, describe, expect, it } from 'vitest'
import { buildServerWhenStale } from '../../scripts/build.mjs'
import { writeUnderFire, type WritingReport } from './fire/writers.ts'

// The long one writes for a minute: npm run test:long.
const isLong = process.env['BLUESTEM_LONG'] !== undefined

describe('twenty who write on the same items while the server is killed', () => {
  let report: WritingReport
  beforeAll(async () => {
    await buildServerWhenStale()
    report = await writeUnderFire({
      writers: 20,
      items: 200,
      lasting: isLong ? 60_000 : 6000,
      within: isLong ? 6000 : 2500,
      seed: 11,
    })
    if (isLong) console.log(JSON.stringify(report))
  }, 180_000)

  it('write enough, under enough kills', () => {
    expect(report.kills).toBeGreaterThan(isLong ? 8 : 1)
    expect(report.acknowledged).toBeGreaterThan(isLong ? 1000 : 50)
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

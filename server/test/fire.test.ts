import { beforeAll, describe, expect, it } from 'vitest'
import { buildServerWhenStale } from '../../scripts/build.mjs'
import { publishUnderFire, type FireReport } from './fire/fire.ts'

// The long one takes hours on a million items: npm run test:long.
const long = process.env['BLUESTEM_LONG'] !== undefined
const items = Number(process.env['BLUESTEM_LONG_ITEMS'] ?? (long ? 1_000_000 : 10_000))
const kills = Number(process.env['BLUESTEM_LONG_KILLS'] ?? (long ? 50 : 5))

describe('publishing under fire', () => {
  let report: FireReport
  beforeAll(
    async () => {
      await buildServerWhenStale()
      report = await publishUnderFire({
        items,
        kills,
        seed: 7,
        within: long ? 8000 : 900,
        say: (words) => {
          if (long) console.log(words)
        },
      })
      if (long) console.log(JSON.stringify(report))
    },
    long ? 6 * 3_600_000 : 240_000,
  )

  it('was worth it: an edition re-mapped many items while others wrote', () => {
    expect([
      report.kills,
      report.editions > 0,
      report.concerned > items / 10,
      report.written > 20,
    ]).toEqual([kills, true, true, true])
  })
  it('took effect whole or not at all: nobody ever saw half of it', () => {
    expect(report.halves).toBe(0)
  })
  it('came to its end: nothing is left under the old status', () => {
    expect(report.left).toBe(0)
  })
  it('lost no write that was acknowledged', () => {
    expect(report.lost).toEqual([])
  })
  it('left “changed” of every item alone', () => {
    expect(report.movedChanged).toBe(0)
  })
  it('wrote a history without gaps, with one state an edition for every item it concerned', () => {
    expect([report.brokenHistories, report.missingVersions]).toEqual([0, 0])
  })
})

import { rmSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { contentKey, marks, unlessUnchanged } from '../checks/unchanged.mjs'

describe('a check that passed', () => {
  it('has a key for the whole tree, and others for parts of it', () => {
    const keys = [[], ['core'], ['web']].map(contentKey)
    for (const key of keys) expect(key).toMatch(/^[0-9a-f]{64}$/)
    expect(new Set(keys).size).toBe(3)
    expect(contentKey(['core'])).toBe(keys[1])
  })

  it('is not run again on the same content; one that failed is', async () => {
    const name = `unchanged-${process.pid}`
    const results = [false, true]
    const run = async (): Promise<boolean> => await Promise.resolve(results.shift()!)
    try {
      const outcomes = [
        await unlessUnchanged(name, ['stand-ins'], run),
        await unlessUnchanged(name, ['stand-ins'], run),
        await unlessUnchanged(name, ['stand-ins'], run),
      ]
      expect(outcomes).toEqual(['failed', 'passed', 'unchanged'])
    } finally {
      rmSync(join(marks, name), { force: true })
    }
  })
})

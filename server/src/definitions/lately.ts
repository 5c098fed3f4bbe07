import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'
import type { World } from '../database/world.ts'
import { usageOf, type Used } from './usage.ts'

interface Kept { readonly stamp: string; readonly at: number; readonly took: number; readonly counted: Promise<unknown> }

const kept = new WeakMap<Sequelize, Map<string, Kept>>()
/** Counts that take longer than this, in milliseconds, may be so much older when they are shown. */
const [slow, oldest] = [300, 30_000]

/**
 * A count for looking at: it is good for as long as nothing was written since. With very many items, where counting takes long, it
 * may also be half a minute old. What is published is counted anew, always.
 *
 * @param key what is counted, and over what
 */
export async function countedLately<T>(database: Sequelize, world: World, key: string, count: () => Promise<T>): Promise<T> {
  const [last] = await rows<{ number: string }>(database, `SELECT number::text FROM outbox WHERE kind <> 'draft' ORDER BY number DESC LIMIT 1`)
  const stamp = `${world.edition} ${world.living} ${last?.number ?? ''}`
  const counts = kept.get(database) ?? new Map<string, Kept>()
  kept.set(database, counts)
  const [known, now] = [counts.get(key), performance.now()]
  if (known && (known.stamp === stamp || (known.took > slow && now - known.at < oldest && known.stamp.startsWith(`${world.edition} `)))) return await (known.counted as Promise<T>)
  const counted = count()
  counts.delete(key)
  counts.set(key, { stamp, at: now, took: 0, counted })
  // The oldest of many goes: people differ in what they may see, and drafts in what they count.
  if (counts.size > 80) counts.delete(counts.keys().next().value!)
  try {
    const found = await counted
    counts.set(key, { stamp, at: now, took: performance.now() - now, counted })
    return found
  } catch (error) {
    counts.delete(key)
    throw error
  }
}

/** How much everything defined is used, for looking at. */
export const usageLately = async (database: Sequelize, world: World, visible: readonly number[], options: { optionsOf?: readonly string[] } = {}): Promise<Used> => (
  await countedLately(database, world, JSON.stringify(['usage', visible, options.optionsOf ?? []]), async () => await usageOf(database, world, visible, options))
)

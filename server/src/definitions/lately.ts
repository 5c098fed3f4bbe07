import type { Sequelize } from 'sequelize'
import { rows } from '../database/connect.ts'
import type { World } from '../database/world.ts'
import { usageOf, type Used } from './usage.ts'

interface Kept { readonly stamp: string; readonly at: number; readonly took: number; readonly used: Promise<Used> }

const kept = new WeakMap<Sequelize, Map<string, Kept>>()
/** Counts that take longer than this, in milliseconds, may be so much older when they are shown. */
const [slow, oldest] = [300, 30_000]

/**
 * How much everything defined is used, for looking at: a count is good for as long as nothing was written since. With very many
 * items, where counting takes long, it may also be half a minute old. What is published is counted anew, always.
 */
export async function usageLately(database: Sequelize, world: World, visible: readonly number[], options: { optionsOf?: readonly string[] } = {}): Promise<Used> {
  const [last] = await rows<{ number: string }>(database, `SELECT number::text FROM outbox WHERE kind <> 'draft' ORDER BY number DESC LIMIT 1`)
  const stamp = `${world.edition} ${world.living} ${last?.number ?? ''}`
  const key = JSON.stringify([visible, options.optionsOf ?? []])
  const counts = kept.get(database) ?? new Map<string, Kept>()
  kept.set(database, counts)
  const [known, now] = [counts.get(key), performance.now()]
  if (known && (known.stamp === stamp || (known.took > slow && now - known.at < oldest && known.stamp.startsWith(`${world.edition} `)))) return await known.used
  const used = usageOf(database, world, visible, options)
  counts.delete(key)
  counts.set(key, { stamp, at: now, took: 0, used })
  // The oldest of many goes: people differ in what they may see, and drafts in what they count.
  if (counts.size > 40) counts.delete(counts.keys().next().value!)
  try {
    const found = await used
    counts.set(key, { stamp, at: now, took: performance.now() - now, used })
    return found
  } catch (error) {
    counts.delete(key)
    throw error
  }
}

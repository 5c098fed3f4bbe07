import { firstIn } from '@bluestem/core/known'
import { Op, type Sequelize } from 'sequelize'
import { runAsServer } from '../database/asker.ts'
import { modelsOf } from '../database/models/models.ts'
import type { World } from '../workspace/world.ts'
import { type UsageCounts, usageOf } from './usage.ts'

/** A count with the moment at which it was begun. */
export interface Counted<T> {
  readonly value: T
  readonly at: Date
}

interface Kept {
  readonly stamp: string
  readonly took: number
  readonly counted: Promise<Counted<unknown>>
  readonly renewing: boolean
}

const kept = new WeakMap<Sequelize, Map<string, Kept>>()
/** Counts that take longer than this, in milliseconds, are told as they are known, and counted anew behind the answer. */
const slow = 300
/** People differ in what they may see, and drafts in what they count: the oldest of so many goes. */
const most = 80

/**
 * A count for looking at: it is good for as long as nothing was written since. Where counting takes long, what is known is told at
 * once with its age, and counted anew in the background. What is published is counted anew, always.
 *
 * @param key what is counted, and over what
 */
export async function countedLately<T>(
  database: Sequelize,
  world: World,
  key: string,
  count: () => Promise<T>,
): Promise<Counted<T>> {
  const last = await modelsOf(database).outbox.findOne({
    where: { kind: { [Op.ne]: 'draft' } },
    order: [['number', 'DESC']],
    attributes: ['number'],
  })
  const stamp = `${world.edition} ${world.living} ${last?.number ?? ''}`
  const counts = kept.get(database) ?? new Map<string, Kept>()
  kept.set(database, counts)
  const known = counts.get(key)
  // A key stands for counts of one kind.
  if (known?.stamp === stamp) return await (known.counted as Promise<Counted<T>>)
  const usable =
    known !== undefined && known.took > slow && known.stamp.startsWith(`${world.edition} `)
  if (!usable) return await counting(counts, key, stamp, count)
  if (!known.renewing) {
    counts.set(key, { ...known, renewing: true })
    runAsServer(() => void counting(counts, key, stamp, count).catch(() => undefined))
  }
  // As above.
  return await (known.counted as Promise<Counted<T>>)
}

async function counting<T>(
  counts: Map<string, Kept>,
  key: string,
  stamp: string,
  count: () => Promise<T>,
): Promise<Counted<T>> {
  const [at, began] = [new Date(), performance.now()]
  const counted = count().then((value) => ({ value, at }))
  const before = counts.get(key)
  // While what is known is counted anew, it goes on being told.
  if (!before?.renewing) counts.set(key, { stamp, took: 0, counted, renewing: false })
  try {
    const found = await counted
    counts.delete(key)
    counts.set(key, { stamp, took: performance.now() - began, counted, renewing: false })
    if (counts.size > most) counts.delete(firstIn([...counts.keys()]))
    return found
  } catch (error) {
    counts.delete(key)
    throw error
  }
}

/** How much everything defined is used, for looking at, and when it was counted. */
export const usageCounted = async (
  database: Sequelize,
  world: World,
  visible: readonly number[],
  options: { optionsOf?: readonly string[] } = {},
): Promise<Counted<UsageCounts>> =>
  await countedLately(
    database,
    world,
    JSON.stringify(['usage', visible, options.optionsOf ?? []]),
    async () => await usageOf(database, world, visible, options),
  )

export const usageLately = async (...of: Parameters<typeof usageCounted>): Promise<UsageCounts> =>
  (await usageCounted(...of)).value

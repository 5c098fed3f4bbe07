import { firstIn } from '@bluestem/core/known'
import { type Cql2Json, readQuery } from '@bluestem/core/queries'
import type { World } from '../workspace/world.ts'

/** A filter of the demo as it is kept. @throws Error that names whose it is when it is not sound */
export function keptFilter(world: World, whose: string, filter: string): Cql2Json {
  const read = readQuery({ lang: 'cql2-text', filter }, world.vocabulary)
  if (!read.ok)
    throw new Error(
      `the demo’s “${whose}” has a filter that is not sound: ${firstIn(read.errors).message}`,
    )
  return read.value.kept
}

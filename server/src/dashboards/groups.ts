import { firstIn, valueFor } from '@bluestem/core/known'
import type { ActorContext } from '../workspace/actor.ts'
import { Decimal, type Property } from '@bluestem/core/queries'
import type { Key, MeasureAnswer } from '@bluestem/core/dashboards'
import { displayValue, valueOf } from '../items/row.ts'
import type { Sequelize } from 'sequelize'
import { sortTexts } from '../sql/texts.ts'

export function keyOf(
  { world }: ActorContext,
  by: Property | undefined,
  raw: string | null,
): Key | null {
  if (!by || raw === null) return null
  const { type } = by
  if (type.kind === 'choice' || type.kind === 'array') {
    if (type.domain === 'item') return { id: raw, title: raw }
    const id = world.numbers.identity(type.domain, Number(raw)) ?? raw
    return { id, title: world.vocabulary.choice(type.domain, id)?.title ?? id }
  }
  if (type.kind === 'boolean') return { id: raw, title: raw === 'true' ? 'yes' : 'no' }
  if (type.kind === 'timestamp') return { id: raw, title: raw }
  return { id: raw, title: String(displayValue(world, by, valueOf(world, by, raw), '')) }
}

type Group = MeasureAnswer['groups'][number]

/** Groups as sorting orders their key: texts by the database's collation, refs by code and number, all else by its place. */
export async function inDefinedOrder(
  database: Sequelize,
  ask: ActorContext,
  by: Property,
  groups: readonly Group[],
): Promise<Group[]> {
  const id = (group: Group): string => group.key[0]?.id ?? ''
  if (by.type.kind === 'text') {
    const texts = await sortTexts(database, groups.filter((group) => group.key[0]).map(id))
    const places = new Map(texts.map((text, index) => [text, index]))
    return [...groups].sort(
      (a, b) =>
        (a.key[0] ? valueFor(places, id(a)) : Infinity) -
        (b.key[0] ? valueFor(places, id(b)) : Infinity),
    )
  }
  if (by.handle === 'parent')
    return [...groups].sort(
      (a, b) => Number(a.key[0] === null) - Number(b.key[0] === null) || byRef(id(a), id(b)),
    )
  return [...groups].sort((a, b) => place(ask, by, firstIn(a.key)) - place(ask, by, firstIn(b.key)))
}

function byRef(a: string, b: string): number {
  const [codeA = '', numberA] = a.split('/')
  const [codeB = '', numberB] = b.split('/')
  return codeA === codeB ? Number(numberA) - Number(numberB) : codeA < codeB ? -1 : 1
}

/** A sum of decimals as a number; of what comes back to nothing, nothing. */
export const sumOf = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum.plus(value), new Decimal(0)).toNumber()

/** Where a group stands: choices in their defined order, numbers and days by value, the empty one last. */
function place({ world }: ActorContext, by: Property, key: Key | null): number {
  if (key === null) return Infinity
  const { type } = by
  if ((type.kind === 'choice' || type.kind === 'array') && type.domain !== 'item')
    return world.vocabulary.choices(type.domain).findIndex((choice) => choice.id === key.id)
  return type.kind === 'number' ? Number(key.id) : Date.parse(key.id) || 0
}

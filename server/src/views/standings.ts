import type { Condition } from '@bluestem/core/queries'
import type { Sequelize } from 'sequelize'
import type { ActorContext } from '../workspace/actor.ts'
import { queryRows } from '../sql/run.ts'
import { standingStatement } from '../sql/answers.ts'
import type { QueryContext } from '../sql/statement.ts'
import { choiceShown, displayValue, valueOf } from '../items/row.ts'
import { groupable } from './content.ts'

export interface Standing {
  readonly key: string | null
  readonly count: number
  readonly late: number
}

/** Counts of answers by the values of a property, each value by identity and as it is shown, in its defined order. */
export async function standings(
  database: Sequelize,
  queryContext: QueryContext,
  condition: Condition,
  context: ActorContext,
  handle: string,
  before: number | null,
) {
  const property = groupable(context, handle, '/view')
  const found = await queryRows<Standing>(
    database,
    standingStatement(queryContext, condition, property, before),
  )
  const { world } = queryContext
  const choices =
    property.type.kind === 'choice' ? world.vocabulary.choices(property.type.domain) : []
  const place = (value: string | null): number =>
    value === null
      ? Infinity
      : choices.length > 0
        ? choices.findIndex((choice) => choice.id === value)
        : Number(value)
  return found
    .map(({ key, count: counted, late }) => {
      const raw =
        key === null
          ? null
          : property.type.kind === 'boolean'
            ? key === 'true'
            : property.type.kind === 'choice'
              ? Number(key)
              : key
      const held = valueOf(world, property, raw)
      const value = held === null ? null : String(held)
      return {
        value,
        count: counted,
        late,
        shown:
          property.type.kind === 'choice' && value !== null
            ? choiceShown(world, property.type.domain, value, '')
            : value === null
              ? null
              : {
                  id: value,
                  title:
                    property.type.kind === 'boolean'
                      ? value === 'true'
                        ? 'yes'
                        : 'no'
                      : String(displayValue(world, property, held, '')),
                },
      }
    })
    .sort((a, b) => place(a.value) - place(b.value))
}

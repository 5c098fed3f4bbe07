import { entryOf, valueFor } from '@bluestem/core/known'
import { type DefinitionsDocument, inOrder, type Ordered } from '@bluestem/core/definitions'
import { phases } from '@bluestem/core/queries'
import type { Model, ModelStatic, Sequelize } from 'sequelize'
import { modelsOf } from '../database/models/models.ts'
import { addColumns } from '../items/columns.ts'

/**
 * Writes the tables that project a document: a number for every identity, which is never used again, and a column for every field.
 * Entries that are no longer in the document keep their row, for history names them. Runs inside the publishing transaction.
 */
export async function project(database: Sequelize, document: DefinitionsDocument): Promise<void> {
  const { family, field, fieldOption, itemType, linkKind, priority, status } = modelsOf(database)
  const statuses = inOrder(document.statuses).sort(
    (a, b) => phases.indexOf(a.phase) - phases.indexOf(b.phase),
  )
  await keep(itemType, inOrder(document.types).map(named))
  await keep(
    status,
    statuses.map((status) => ({ ...named(status), phase: phases.indexOf(status.phase) })),
  )
  await keep(
    priority,
    priorities(document).map((id) => named({ id, ...entryOf(document.priorities, id) })),
  )
  await keep(
    family,
    inOrder(document.families).map((family) => ({ ...named(family), pick: family.pick })),
  )
  await keep(linkKind, inOrder(document.linkKinds).map(named))
  await keep(
    field,
    inOrder(document.fields).map((field) => ({
      ...named(field),
      handle: field.handle,
      kind: field.kind,
    })),
  )
  const fields = await field.findAll({ order: ['number'] })
  const numbers = new Map(fields.map((field) => [field.identity, field.number]))
  await keep(
    fieldOption,
    inOrder(document.fields).flatMap((field) =>
      inOrder(field.options ?? {}).map((option) => ({
        ...named(option),
        fieldNumber: valueFor(numbers, field.id),
      })),
    ),
  )
  await addColumns(database, fields)
}

const named = ({ id, title }: { readonly id: string; readonly title: string }): Entry => ({
  identity: id,
  title,
})

interface Entry {
  readonly identity: string
  readonly title: string
}

function priorities(document: DefinitionsDocument): string[] {
  const byRung = inOrder(document.ladders).flatMap((ladder) =>
    inOrder<Ordered>(ladder.rungs).map((rung) => rung.id),
  )
  return [
    ...new Set([...byRung, ...inOrder(document.priorities).map((priority) => priority.id)]),
  ].filter((id) => document.priorities[id])
}

/** Writes entries in their order, each under the number its identity has: one statement, for an edition holds back every writer. */
async function keep<M extends Model>(
  model: ModelStatic<M>,
  entries: readonly Entry[],
): Promise<void> {
  const rows = entries.map((entry, sort) => ({ ...entry, sort }))
  const columns = Object.keys(model.getAttributes()).filter(
    (column) => column !== 'number' && column !== 'identity',
  )
  // The columns of a generic model cannot be told by its type.
  await (model as ModelStatic<Model>).bulkCreate(rows, {
    updateOnDuplicate: columns,
    conflictAttributes: ['identity'],
  })
}

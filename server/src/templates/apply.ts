import { firstIn } from '@bluestem/core/known'
import type { ActorContext } from '../workspace/actor.ts'
import { findItem } from '../work/storedItem.ts'
import { readItem } from '../work/readItem.ts'
import { editItem } from '../work/editItem.ts'
import { modelsOf } from '../database/models/models.ts'
import type { Sequelize } from 'sequelize'
import { type ApplicationAnswer, fillInto } from '@bluestem/core/templates'
import { filledFor, type Using, withMe } from './fill.ts'
import { templateBy } from './read.ts'

export interface Applying extends Omit<Using, 'project'> {
  readonly ref: string
  readonly how: 'fill' | 'replace'
  readonly keep: boolean
}

/** Applies a template's item to one that exists, or tells what that would change. */
export async function applyTo(
  database: Sequelize,
  actor: ActorContext,
  id: string,
  { ref, how, keep, blanks }: Applying,
  match: string,
): Promise<ApplicationAnswer> {
  const row = await templateBy(database, actor, id)
  const { project } = await findItem(database, actor, ref)
  const { items, left } = filledFor(actor, row, {
    project: project.code,
    ...(blanks ? { blanks } : {}),
  })
  const item = firstIn(items)
  const { body: held } = await readItem(database, actor, ref)
  const plain = (of: Readonly<Record<string, unknown>>): Record<string, unknown> =>
    Object.fromEntries(Object.entries(of).map(([handle, value]) => [handle, bare(value)]))
  const values = fillInto(
    {
      ...withMe(actor, item.values),
      ...(item.description === undefined ? {} : { description: item.description }),
    },
    plain(held),
    how,
  )
  const fields = fillInto(withMe(actor, item.fields), plain(held.fields ?? {}), how)
  if (keep) {
    if (Object.keys(values).length + Object.keys(fields).length > 0)
      await editItem(
        database,
        actor,
        ref,
        { ...values, ...(Object.keys(fields).length > 0 ? { fields } : {}) },
        match,
      )
    await modelsOf(database).template.update({ usedAt: actor.now }, { where: { identity: id } })
  }
  return {
    values,
    fields,
    before: {
      values: Object.fromEntries(
        Object.keys(values).map((handle) => [handle, held[handle] ?? null]),
      ),
      fields: Object.fromEntries(
        Object.keys(fields).map((handle) => [handle, held.fields?.[handle] ?? null]),
      ),
    },
    left,
    kept: keep,
  }
}

/** A value as it travels, as it would be given: choices by identity. */
export const bare = (value: unknown): unknown =>
  Array.isArray(value)
    ? value.map(bare)
    : value !== null && typeof value === 'object' && 'id' in value
      ? value.id
      : value

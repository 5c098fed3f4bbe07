import {
  type Attributes,
  type CreationOptional,
  literal,
  type Model,
  type ModelStatic,
  type WhereOptions,
} from 'sequelize'
import { notFound, stale } from '../problems/problem.ts'

/** A row that several people change at once, so that it has a version; a person has a name, everything else a title. */
interface VersionedModel extends Model {
  identity: string
  title?: string
  name?: string
  version: CreationOptional<number>
}

/** The version a header is meant for; undefined for any. A header that is no version of ours fits none. */
const versionOf = (match: string): number | undefined =>
  match === '*' ? undefined : Number(/^"(\d{1,9})"$/.exec(match)?.[1] ?? -1)

/** The row of an identity, where it still has the version that a change is meant for. */
function meantFor<M extends VersionedModel>(
  identity: string,
  match: string,
): WhereOptions<Attributes<M>> {
  const version = versionOf(match)
  const where = version === undefined ? { identity } : { identity, version }
  // Every versioned model has these two columns, which the types of a generic model cannot say.
  return where as WhereOptions<Attributes<M>>
}

/**
 * Changes a row where it still has the version that the change is meant for: both are one statement, so that of two who change the
 * same version one wins. What is undefined stays as it is.
 *
 * @returns the new version
 * @throws Problem 412 with what is there now, 404 where nothing is any more
 */
export async function changeVersion<M extends VersionedModel>(
  model: ModelStatic<M>,
  identity: string,
  match: string,
  values: Partial<Attributes<M>>,
): Promise<number> {
  const next = { ...values, version: literal('version + 1') }
  const [, changed] = await model.update(next, {
    where: meantFor(identity, match),
    returning: true,
  })
  return changed[0]?.version ?? (await lost(model, identity))
}

/** Deletes a row where it still has the version that was read. */
export async function deleteVersion<M extends VersionedModel>(
  model: ModelStatic<M>,
  identity: string,
  match: string,
): Promise<void> {
  const deleted = await model.destroy({ where: meantFor(identity, match) })
  if (deleted === 0) await lost(model, identity)
}

async function lost<M extends VersionedModel>(
  model: ModelStatic<M>,
  identity: string,
): Promise<never> {
  const there = await model.findOne({ where: meantFor(identity, '*') })
  if (!there) throw notFound(`${model.name} of this identity`)
  throw stale({ title: there.title ?? there.name, version: there.version })
}

export const etagOfVersion = ({ version }: { readonly version: number }): string => `"${version}"`

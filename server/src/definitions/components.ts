import { cleanText } from '@bluestem/core/work'
import type { Sequelize } from 'sequelize'
import { inTransaction, rows, run } from '../database/connect.ts'
import { keepMapping, rewriteNow } from '../database/remap.ts'
import { visibleProjects, type Component } from '../database/world.ts'
import { forbidden, invalid, notFound, refused } from '../http/problem.ts'
import { replaceNamed } from '../kept/replace.ts'
import type { Acting } from '../work/find.ts'
import { newIdentity } from './identity.ts'
import { recorderOf } from './record.ts'
import { countHolding, judgeMerging, type Merged } from './labels.ts'
import { keepsProject } from './rights.ts'
import { changeVersion } from './versioned.ts'

export interface ComponentGiven {
  readonly title?: string
  readonly description?: string
  readonly keeper?: string | null
  readonly retired?: boolean
}

export function components({ world, person }: Acting): object {
  const visible = visibleProjects(world, person)
  return {
    components: world.components
      .filter((one) => visible.includes(world.numbers.of('project', one.project) ?? -1))
      .map(({ id, title, project, keeper, description, retired, version }) => ({
        id,
        title,
        project,
        keeper: keeper && {
          id: keeper,
          title: world.people.find((one) => one.id === keeper)?.name ?? keeper,
        },
        description,
        retired,
        version,
      })),
  }
}

function judgeKeeping({ world, person }: Acting, project: string): void {
  if (!keepsProject(world, person, project))
    throw forbidden('Only the keepers of a project change its components.')
}

function judged(
  acting: Acting,
  project: string,
  given: ComponentGiven,
  except?: string,
): { title?: string; keeper?: number | null } {
  const { world } = acting
  const clean = given.title === undefined ? undefined : cleanText(given.title)
  const title = clean?.ok ? clean.text.trim() : undefined
  if (clean && (!clean.ok || title === '' || title!.length > 80))
    throw invalid([
      {
        pointer: '/title',
        message: clean.ok ? 'A component has a title of at most 80 characters.' : clean.message,
        expected: '1 to 80 characters',
      },
    ])
  if (
    title !== undefined &&
    world.components.some(
      (one) =>
        one.id !== except &&
        one.project === project &&
        !one.retired &&
        one.title.toLowerCase() === title.toLowerCase(),
    )
  )
    throw refused(`This project has a component “${title}” already.`, [
      { pointer: '/title', message: 'This component exists.' },
    ])
  const keeper =
    given.keeper === undefined || given.keeper === null
      ? given.keeper
      : world.people.find((one) => one.id === given.keeper)?.number
  if (given.keeper && keeper === undefined)
    throw invalid([
      {
        pointer: '/keeper',
        message: 'There is no such person.',
        expected: 'the identity of a person',
        found: given.keeper,
      },
    ])
  return { ...(title === undefined ? {} : { title }), ...(keeper === undefined ? {} : { keeper }) }
}

const recorded = recorderOf('component')

export async function makeComponent(
  database: Sequelize,
  acting: Acting,
  project: string,
  given: ComponentGiven & { title: string },
): Promise<object> {
  const number = acting.world.numbers.of('project', project)
  if (number === undefined || !visibleProjects(acting.world, acting.person).includes(number))
    throw notFound('project of this identity')
  judgeKeeping(acting, project)
  const { title, keeper = null } = judged(acting, project, given)
  const id = newIdentity('co')
  return await inTransaction(database, async () => {
    await run(
      database,
      'INSERT INTO component (identity, title, project_id, keeper_id, description) VALUES ($1, $2, $3, $4, $5)',
      [id, title, number, keeper, given.description ?? ''],
    )
    await recorded(
      database,
      acting,
      'made a component',
      id,
      { after: { ...given, project } },
      { project: number },
    )
    return { id, project, title, retired: false, version: 1 }
  })
}

function componentBy({ world, person }: Acting, id: string): Component {
  const component = world.components.find((one) => one.id === id)
  if (
    !component ||
    !visibleProjects(world, person).includes(world.numbers.of('project', component.project) ?? -1)
  )
    throw notFound('component of this identity')
  return component
}

export async function changeComponent(
  database: Sequelize,
  acting: Acting,
  id: string,
  given: ComponentGiven,
  match: string,
): Promise<object> {
  const component = componentBy(acting, id)
  judgeKeeping(acting, component.project)
  const { title = component.title, keeper } = judged(acting, component.project, given, id)
  return await inTransaction(database, async () => {
    const version = await changeVersion(database, 'component', id, match, {
      title: given.title === undefined ? undefined : { value: title },
      keeper_id: keeper === undefined ? undefined : { value: keeper },
      description: given.description === undefined ? undefined : { value: given.description },
      retired: given.retired === undefined ? undefined : { value: given.retired },
    })
    await recorded(
      database,
      acting,
      'changed a component',
      id,
      {
        before: { title: component.title, keeper: component.keeper, retired: component.retired },
        after: given,
      },
      { project: acting.world.numbers.of('project', component.project)! },
    )
    return { id, title, version }
  })
}

/** Makes components of one project one: items of any of them are of the one, and the others are retired. */
export async function mergeComponents(
  database: Sequelize,
  acting: Acting,
  into: string,
  from: readonly string[],
): Promise<Omit<Merged, 'left'>> {
  const { world, person, now } = acting
  const [one, others] = [
    componentBy(acting, into),
    [...new Set(from)].map((id) => componentBy(acting, id)),
  ]
  judgeKeeping(acting, one.project)
  const wrong = others.find((other) => other.id === into || other.project !== one.project)
  if (wrong)
    throw invalid([
      {
        pointer: '/from',
        message:
          wrong.id === into
            ? 'A component cannot be merged into itself.'
            : `“${wrong.title}” belongs to another project.`,
        expected: 'other components of the same project',
      },
    ])
  return await inTransaction(database, async () => {
    await rows(database, 'SELECT number FROM current_edition FOR UPDATE')
    await judgeMerging(database, 'component', [one, ...others])
    const types = (await rows<{ number: number }>(database, 'SELECT number FROM item_type')).map(
      (type) => type.number,
    )
    let items = 0
    for (const other of others) {
      const mapping = await keepMapping(
        database,
        {
          edition: null,
          column: 'components',
          from: other.number,
          to: one.number,
          phase: null,
          several: true,
          projects: world.whole.projects.map((project) => project.number),
          types,
          author: { kind: 'bulk job', number: person.number },
        },
        now,
      )
      await rewriteNow(database, world.columns, [mapping], now)
      await replaceNamed(database, other.id, into)
      await run(
        database,
        'UPDATE component SET retired = true, version = version + 1 WHERE identity = $1',
        [other.id],
      )
      await recorded(
        database,
        acting,
        'merged a component',
        other.id,
        { before: other.title, after: one.title },
        { project: world.numbers.of('project', one.project)! },
      )
      items += mapping.total
    }
    return {
      items,
      held: await countHolding(database, acting, 'components', [
        one.number,
        ...others.map((other) => other.number),
      ]),
    }
  })
}

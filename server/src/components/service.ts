import type { AnswerOf } from '@bluestem/core/contract'
import type { ComponentAnswer, ComponentChange } from '@bluestem/core/components'
import type { World } from '../workspace/world.ts'
import type { Component } from '../workspace/living.ts'
import { cleanText } from '@bluestem/core/work'
import type { Sequelize } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import { modelsOf } from '../database/models/models.ts'
import { visibleProjects } from '../workspace/visibility.ts'
import { forbidden, invalid, notFound, refused, noSuchPerson } from '../problems/problem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { newIdentity } from '../workspace/identity.ts'
import { auditorOf } from '../audit/recorder.ts'
import { isKeeperOfProject } from '../workspace/rights.ts'
import { changeVersion } from '../database/versioned.ts'

export function components({ world, person }: ActorContext): AnswerOf<'GET /components'> {
  const visible = visibleProjects(world, person)
  return {
    components: world.components
      .filter((component) => visible.includes(world.numbers.of('project', component.project) ?? -1))
      .map((component) => shown(world, component)),
  }
}

const shown = (world: World, component: Omit<Component, 'number'>): ComponentAnswer => {
  const { id, title, project, keeper, description, retired, version } = component
  const name = world.people.find((person) => person.id === keeper)?.name
  return {
    id,
    title,
    project,
    keeper: keeper === null ? null : { id: keeper, title: name ?? keeper },
    description,
    retired,
    version,
  }
}

export function judgeKeeping({ world, person }: ActorContext, project: string): void {
  if (!isKeeperOfProject(world, person, project))
    throw forbidden('Only the keepers of a project change its components.')
}

/** A title given for a component, cleaned. @throws Problem for one that is empty, too long or taken */
function judgeTitle(
  { world }: ActorContext,
  project: string,
  given: string,
  except?: string,
): string {
  const clean = cleanText(given)
  const title = clean.ok ? clean.text.trim() : ''
  if (title === '' || title.length > 80)
    throw invalid([
      {
        pointer: '/title',
        message: clean.ok ? 'A component has a title of at most 80 characters.' : clean.message,
        expected: '1 to 80 characters',
      },
    ])
  const isTwin = (component: Component): boolean =>
    component.id !== except &&
    component.project === project &&
    !component.retired &&
    component.title.toLowerCase() === title.toLowerCase()
  if (world.components.some(isTwin))
    throw refused(`This project has a component “${title}” already.`, [
      { pointer: '/title', message: 'This component exists.' },
    ])
  return title
}

function judgeKeeper({ world }: ActorContext, id: string | null): number | null {
  if (id === null) return null
  const keeper = world.people.find((person) => person.id === id)
  if (keeper) return keeper.number
  throw invalid([noSuchPerson('/keeper', id)])
}

/** What is given of a component, judged: only what is given is there. */
function judged(
  actor: ActorContext,
  project: string,
  { title, keeper }: ComponentChange,
  except?: string,
): { title?: string; keeper?: number | null } {
  return {
    ...(title === undefined ? {} : { title: judgeTitle(actor, project, title, except) }),
    ...(keeper === undefined ? {} : { keeper: judgeKeeper(actor, keeper) }),
  }
}

export const recorded = auditorOf('component')

export async function makeComponent(
  database: Sequelize,
  actor: ActorContext,
  project: string,
  given: ComponentChange & { title: string },
): Promise<ComponentAnswer> {
  const number = actor.world.numbers.of('project', project)
  if (number === undefined || !visibleProjects(actor.world, actor.person).includes(number))
    throw notFound('project of this identity')
  judgeKeeping(actor, project)
  const { title = given.title, keeper = null } = judged(actor, project, given)
  const id = newIdentity('co')
  return await inTransaction(database, async () => {
    await modelsOf(database).component.create({
      identity: id,
      title,
      projectId: number,
      keeperId: keeper,
      description: given.description ?? '',
    })
    await recorded(
      database,
      actor,
      'made a component',
      id,
      { after: { ...given, project } },
      { project: number },
    )
    const { keeper: keptBy = null, description = '' } = given
    const made = { id, project, title, keeper: keptBy, description, retired: false, version: 1 }
    return shown(actor.world, made)
  })
}

export function componentBy({ world, person }: ActorContext, id: string): Component {
  const component = world.components.find((component) => component.id === id)
  if (
    !component ||
    !visibleProjects(world, person).includes(world.numbers.of('project', component.project) ?? -1)
  )
    throw notFound('component of this identity')
  return component
}

export async function changeComponent(
  database: Sequelize,
  actor: ActorContext,
  id: string,
  given: ComponentChange,
  match: string,
): Promise<ComponentAnswer> {
  const component = componentBy(actor, id)
  judgeKeeping(actor, component.project)
  const { title = component.title, keeper } = judged(actor, component.project, given, id)
  return await inTransaction(database, async () => {
    const version = await changeVersion(modelsOf(database).component, id, match, {
      title: given.title === undefined ? undefined : title,
      keeperId: keeper,
      description: given.description,
      retired: given.retired,
    })
    await recorded(
      database,
      actor,
      'changed a component',
      id,
      {
        before: { title: component.title, keeper: component.keeper, retired: component.retired },
        after: given,
      },
      { project: actor.world.numbers.numberOf('project', component.project) },
    )
    return shown(actor.world, { ...component, ...given, title, version })
  })
}

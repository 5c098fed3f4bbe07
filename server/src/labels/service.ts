import type { LabelAnswer, LabelChange } from '@bluestem/core/labels'
import type { AnswerOf } from '@bluestem/core/contract'
import type { Sequelize } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import { modelsOf } from '../database/models/models.ts'
import type { Label } from '../workspace/living.ts'
import { visibleProjects } from '../workspace/visibility.ts'
import { notFound } from '../problems/problem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { newIdentity } from '../workspace/identity.ts'
import { auditorOf } from '../audit/recorder.ts'
import { changeVersion } from '../database/versioned.ts'
import { cleanLabel, judgeChanging, judgeMaking, judgeTitle, place } from './judge.ts'

const shown = ({
  id,
  title,
  family,
  colour,
  project,
  description,
  retired,
  version,
}: Omit<Label, 'number'>): LabelAnswer => ({
  id,
  title,
  family,
  colour,
  project,
  description,
  retired,
  version,
})

/** The labels a person may know: all but those of projects they do not see. */
export function labels({ world, person }: ActorContext): AnswerOf<'GET /labels'> {
  const visible = visibleProjects(world, person)
  return {
    labels: world.labels
      .filter(
        (label) =>
          label.project === null ||
          visible.includes(world.numbers.of('project', label.project) ?? -1),
      )
      .map(shown),
  }
}

export async function makeLabel(
  database: Sequelize,
  actor: ActorContext,
  given: LabelChange & { title: string },
): Promise<LabelAnswer> {
  const { family = null, project = null, colour = 1, description = '' } = given
  judgeMaking(actor, family, project)
  const title = cleanLabel(given.title)
  const at = place(actor, family, project)
  judgeTitle(actor.world, title, family, project)
  const id = newIdentity('la')
  return await inTransaction(database, async () => {
    await modelsOf(database).label.create({
      identity: id,
      title,
      familyNumber: at.family,
      projectId: at.project,
      colour,
      description,
    })
    await recorded(
      database,
      actor,
      'made a label',
      id,
      { after: { title, family, project } },
      { project: at.project },
    )
    return { id, title, family, project, colour, description, retired: false, version: 1 }
  })
}

export const recorded = auditorOf('label')

export function labelBy({ world, person }: ActorContext, id: string): Label {
  const label = world.labelOf.get(id)
  if (
    !label ||
    (label.project !== null &&
      !visibleProjects(world, person).includes(world.numbers.of('project', label.project) ?? -1))
  )
    throw notFound('label of this identity')
  return label
}

/** Renames, moves, colours, describes, lifts, retires or brings back a label. Items hold its identity, so nothing else changes. */
export async function changeLabel(
  database: Sequelize,
  actor: ActorContext,
  id: string,
  given: LabelChange,
  match: string,
): Promise<LabelAnswer> {
  const label = labelBy(actor, id)
  judgeChanging(actor, label)
  const next = {
    ...label,
    ...given,
    ...(given.title === undefined ? {} : { title: cleanLabel(given.title) }),
  }
  if (given.family !== undefined || given.project !== undefined)
    judgeMaking(actor, next.family, next.project)
  const at = place(actor, next.family, next.project)
  if (!next.retired) judgeTitle(actor.world, next.title, next.family, next.project, id)
  return await inTransaction(database, async () => {
    const version = await changeVersion(modelsOf(database).label, id, match, {
      title: given.title === undefined ? undefined : next.title,
      familyNumber: given.family === undefined ? undefined : at.family,
      projectId: given.project === undefined ? undefined : at.project,
      colour: given.colour,
      description: given.description,
      retired: given.retired,
    })
    await recorded(
      database,
      actor,
      given.retired === true ? 'retired a label' : 'changed a label',
      id,
      { before: shown(label), after: given },
      { project: at.project },
    )
    return shown({ ...next, version })
  })
}

import { dayOf } from '@bluestem/core/calendar'
import type { FinishRelease, ReleaseAnswer, ReleasePlan } from '@bluestem/core/releases'
import { listed } from '@bluestem/core/work'
import type { Sequelize } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import { modelsOf } from '../database/models/models.ts'
import type { ReleaseModel } from '../database/models/release.ts'
import { changeVersion, etagOfVersion } from '../database/versioned.ts'
import { judgeFinish, moveOpen, outcomeIn } from '../iterations/planned.ts'
import type { ActorContext } from '../workspace/actor.ts'
import {
  judgePlanner,
  mayPlan,
  projectsOf,
  readRelease,
  recorded,
  releaseBy,
  shown,
} from './service.ts'

const mostOffered = 12

/** Releases of the same projects that are not finished and come out later: where what is open can go. */
async function laterOnes(
  database: Sequelize,
  actor: ActorContext,
  release: ReleaseModel,
): Promise<ReleasePlan['next']> {
  const own = new Set(projectsOf(release))
  const unfinished = await modelsOf(database).release.findAll({ where: { finishedAt: null } })
  const isOpen = new Set(unfinished.map(({ identity }) => identity))
  return actor.world.source.releases
    .filter(
      ({ id, end, projects }) =>
        id !== release.identity &&
        isOpen.has(id) &&
        (end === null || release.endDate === null || end > release.endDate) &&
        projects.some((project) => own.has(project)),
    )
    .slice(0, mostOffered)
    .map(({ id, title }) => ({ id, title }))
}

/** How a release stands: what it has, what was meant, and where what is open can go. */
export async function readReleasePlan(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
): Promise<ReleasePlan> {
  const release = await releaseBy(database, actor, identity)
  const outcome = await outcomeIn(database, actor, 'release', release)
  const { inside, done } = outcome
  const counts = { items: inside.refs.length, done: done.refs.length }
  return {
    release: shown(actor, release, counts),
    outcome,
    next: await laterOnes(database, actor, release),
    mayPlan: mayPlan(actor, projectsOf(release)),
  }
}

/** Finishes a release: it came out, and what is open goes where it is said, all or nothing. */
export async function finishRelease(
  database: Sequelize,
  actor: ActorContext,
  identity: string,
  given: FinishRelease,
): Promise<ReleaseAnswer> {
  await inTransaction(database, async () => {
    const release = await releaseBy(database, actor, identity)
    judgePlanner(actor, projectsOf(release))
    judgeFinish(release)
    // Of two who finish it at the same moment one wins.
    await changeVersion(modelsOf(database).release, identity, etagOfVersion(release), {
      finishedAt: actor.now,
    })
    const moved = await moveOpen(database, actor, 'release', release, given)
    await recorded(database, actor, 'finished a release', identity, {
      after: {
        title: release.title,
        day: dayOf(actor.now.getTime(), actor.world.zone),
        moved: listed(moved),
      },
    })
  })
  return await readRelease(database, actor, identity)
}

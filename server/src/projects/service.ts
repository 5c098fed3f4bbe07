import { inWords, replaceAt } from '@bluestem/core/definitions'
import type { Sequelize } from 'sequelize'
import { inTransaction, rows, run } from '../database/connect.ts'
import { audit, tell } from '../items/write.ts'
import { invalid, notFound, refused, type Wrong } from '../problems/problem.ts'
import type { ActorContext } from '../workspace/actor.ts'
import { namedCalendar, wrongCalendar } from '../calendars/service.ts'
import { newIdentity } from '../workspace/identity.ts'
import { changeVersion } from '../database/versioned.ts'

export interface ProjectGiven {
  readonly title: string
  readonly code: string
  readonly description?: string
  readonly rulebook: string
  readonly calendar?: string | null
  readonly open?: boolean
}

/** Makes a project that follows a rulebook: the project and the edition that says so come together or not at all. */
export async function makeProject(
  database: Sequelize,
  acting: ActorContext,
  given: ProjectGiven,
): Promise<object> {
  const { world, person, now } = acting
  const wrong: Wrong[] = []
  if (!/^[A-Z][A-Z0-9]{1,9}$/.test(given.code))
    wrong.push({
      pointer: '/code',
      message: 'A code is two to ten capital letters and digits, beginning with a letter.',
      expected: 'YARD',
      found: given.code,
    })
  if (world.projects.some((project) => project.code === given.code))
    wrong.push({
      pointer: '/code',
      message: `The project “${world.projects.find((project) => project.code === given.code)!.title}” has this code.`,
      expected: 'another code',
      found: given.code,
    })
  const rulebook = world.document.rulebooks[given.rulebook]
  if (!rulebook || rulebook.retired)
    wrong.push({
      pointer: '/rulebook',
      message: 'There is no such rulebook to follow.',
      expected: 'the identity of a rulebook',
      found: given.rulebook,
    })
  wrong.push(...wrongCalendar(world, given.calendar))
  if (wrong.length > 0) throw invalid(wrong)
  const id = newIdentity('pr')
  return await inTransaction(database, async () => {
    const [present] = await rows<{ number: number }>(
      database,
      'SELECT number FROM current_edition FOR UPDATE',
    )
    if (present!.number !== world.edition)
      throw refused('A new edition was published at this moment; try again.', [], { retry: true })
    await run(
      database,
      'INSERT INTO project (identity, code, title, description, open, calendar_id) VALUES ($1, $2, $3, $4, $5, (SELECT id FROM calendar WHERE identity = $6))',
      [
        id,
        given.code,
        given.title.trim(),
        given.description ?? '',
        given.open ?? true,
        given.calendar ?? null,
      ],
    )
    await run(
      database,
      'INSERT INTO project_member (project_id, person_id, keeper) SELECT id, $2, true FROM project WHERE identity = $1',
      [id, person.number],
    )
    const document = replaceAt(world.document, ['projects', id], given.rulebook)
    const words = [
      inWords(
        world.document,
        document,
        { path: ['projects', id], after: given.rulebook },
        () => given.title,
      ),
    ]
    await run(
      database,
      'INSERT INTO edition (number, document, changes, paths, note, by_id, published_at) VALUES ($1, $2::jsonb, $3::jsonb, $4::jsonb, $5, $6, $7)',
      [
        world.edition + 1,
        JSON.stringify(document),
        JSON.stringify(words),
        JSON.stringify([['projects', id]]),
        given.open === false
          ? 'A new project, for its members only.'
          : `A new project: ${given.title.trim()}.`,
        person.number,
        now,
      ],
    )
    await run(database, 'UPDATE current_edition SET number = $1', [world.edition + 1])
    await audit(
      database,
      person.number,
      'made a project',
      `project ${given.code}`,
      { after: given },
      now,
    )
    await tell(database, 'edition', String(world.edition + 1), {}, now)
    return {
      id,
      code: given.code,
      title: given.title.trim(),
      rulebook: given.rulebook,
      edition: world.edition + 1,
    }
  })
}

export interface ProjectChange {
  readonly title?: string
  readonly description?: string
  readonly calendar?: string | null
  readonly keepers?: readonly string[]
}

/** Renames a project, says what it is for, which calendar it works by and who keeps it. Its code is in every ref, so it stays. */
export async function changeProject(
  database: Sequelize,
  acting: ActorContext,
  id: string,
  given: ProjectChange,
  match: string,
): Promise<object> {
  const { world, person, now } = acting
  const project = world.projects.find((one) => one.id === id)
  if (!project) throw notFound('project of this identity')
  const wrong = wrongCalendar(world, given.calendar)
  if (wrong.length > 0) throw invalid(wrong)
  const keepers = given.keepers?.map((keeper, index) => {
    const found = world.people.find((one) => one.id === keeper && one.role !== 'viewer')
    if (!found)
      throw invalid([
        {
          pointer: `/keepers/${index}`,
          message: 'There is no such member.',
          expected: 'the identity of a person who is no viewer',
          found: keeper,
        },
      ])
    return found.number
  })
  return await inTransaction(database, async () => {
    const version = await changeVersion(database, 'project', id, match, {
      title: given.title?.trim() ? { value: given.title.trim() } : undefined,
      description: given.description === undefined ? undefined : { value: given.description },
      calendar_id: given.calendar === undefined ? undefined : namedCalendar(given.calendar),
    })
    if (keepers) {
      await run(database, 'UPDATE project_member SET keeper = false WHERE project_id = $1', [
        project.number,
      ])
      for (const keeper of keepers)
        await run(
          database,
          'INSERT INTO project_member (project_id, person_id, keeper) VALUES ($1, $2, true) ON CONFLICT (project_id, person_id) DO UPDATE SET keeper = true',
          [project.number, keeper],
        )
    }
    await audit(
      database,
      person.number,
      'changed a project',
      `project ${project.code}`,
      { before: { title: project.title, calendar: project.calendar }, after: given },
      now,
    )
    await tell(database, 'project', id, { project: project.number }, now)
    return { id, title: given.title?.trim() || project.title, version }
  })
}

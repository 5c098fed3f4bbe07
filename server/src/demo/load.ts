import { readStamp } from '../sql/stamp.ts'
import type { Client } from 'pg'
import type { Sequelize } from 'sequelize'
import { inTransaction } from '../database/connect.ts'
import { modelsOf } from '../database/models/models.ts'
import { continueNumbers, copyStates, type LoadedItem, withoutIndexes } from '../items/massLoad.ts'
import { followOpenItems } from '../items/notices.ts'
import { diff, emptyDocument, inWords } from '@bluestem/core/definitions'
import { project as projectTables } from '../definitions/projection.ts'
import { audit } from '../sql/audit.ts'
import { type World, Worlds } from '../workspace/world.ts'
import { hashPassword } from '../people/session.ts'
import { definitions, pastEditions } from './definitions.ts'
import { components, labels } from './labels.ts'
import { projects } from './projectList.ts'
import { lives } from './events.ts'
import { day, personId, zone } from './life.ts'
import { Folder } from './fold.ts'
import { keepQuestions } from './questions.ts'
import { emailOf, people } from './people.ts'
import { keepAbsences, keepIterations } from './iterations.ts'
import { keepReleases } from './releases.ts'
import { keepDemoJots } from './jots.ts'
import { keepTeams } from './teams.ts'
import { keepTemplates } from './templates.ts'

/** Fills an empty, migrated database with Marrowmere Ferries as of a moment. */
export async function loadDemo(
  database: Sequelize,
  { now, items }: { now: Date; items: number },
): Promise<{ items: number; states: number }> {
  await loadVocabulary(database, now)
  const world = await new Worlds(database, readStamp).now()
  const massive = items > 20_000
  const load = async (): Promise<number> => await loadItems(database, world, now, items)
  const states = massive ? await withoutIndexes(database, load) : await load()
  await continueNumbers(database)
  await keepQuestions(database, await new Worlds(database, readStamp).now(), now)
  await keepTemplates(database, now)
  await keepDemoJots(database, now)
  await followOpenItems(database, new Date(now.getTime() - 2 * day))
  await keepTeams(database, await new Worlds(database, readStamp).now())
  await keepAbsences(database, now)
  await modelsOf(database).setting.update({ loaded: true }, { where: { onlyRow: true } })
  return { items, states }
}

async function loadPeople(database: Sequelize): Promise<void> {
  const password = await hashPassword('marrowmere')
  for (const [index, { name, role }] of people.entries())
    await modelsOf(database).person.create({
      id: index + 1,
      identity: personId(index + 1),
      name,
      email: emailOf(name),
      role,
      password,
    })
}

async function loadProjects(database: Sequelize): Promise<void> {
  const { project, projectMember } = modelsOf(database)
  for (const { id, code, title, description, open } of projects) {
    const made = await project.create({ identity: id, code, title, description, open })
    const members = people.flatMap((person, index) =>
      person.projects.includes(code) ? [{ projectId: made.id, personId: index + 1 }] : [],
    )
    await projectMember.bulkCreate(members)
  }
}

/** The editions of the past, each with what it changed, and the tables of the present one. */
async function loadEditions(database: Sequelize, now: Date): Promise<void> {
  for (const [index, past] of pastEditions.entries()) {
    const { daysAgo, by, note, document } = past
    const published = new Date(now.getTime() - daysAgo * 86_400_000)
    const number = index + 1
    const person = people.findIndex((person) => person.name === by) + 1
    await projectTables(database, document)
    const before = pastEditions[index - 1]?.document ?? emptyDocument
    const differences = diff(before, document)
    const words =
      index === 0 ? [note] : differences.map((difference) => inWords(before, document, difference))
    const paths = differences.map((difference) => difference.path)
    await modelsOf(database).edition.create({
      number,
      document,
      changes: words,
      paths,
      note,
      byId: person,
      publishedAt: published,
    })
    const after = { note, words, mappings: [] }
    await audit(database, person, 'published', `edition ${number}`, { after }, published)
  }
  await projectTables(database, definitions)
  await modelsOf(database).currentEdition.create({ number: pastEditions.length })
}

async function loadLabels(database: Sequelize): Promise<void> {
  const models = modelsOf(database)
  for (const { id, title, family, colour } of labels) {
    const gathers = family && (await models.family.findOne({ where: { identity: family } }))
    const familyNumber = gathers ? gathers.number : null
    await models.label.create({ identity: id, title, familyNumber, colour })
  }
  for (const { id, project, title } of components) {
    const owner = await models.project.findOne({
      where: { code: project },
      rejectOnEmpty: true,
    })
    await models.component.create({ identity: id, title, projectId: owner.id })
  }
}

/** People, projects, labels, components and the editions, the present one last. */
async function loadVocabulary(database: Sequelize, now: Date): Promise<void> {
  await inTransaction(database, async () => {
    const title = 'Marrowmere Ferries'
    await modelsOf(database).setting.create({ title, zone, demo: true, loaded: false })
    await loadPeople(database)
    await loadProjects(database)
    await loadEditions(database, now)
    await loadLabels(database)
    await keepIterations(database, now)
    await keepReleases(database, now)
  })
}

const batch = 4000

/** Streams items and their history by COPY, a batch of lives at a time. */
async function loadItems(
  database: Sequelize,
  world: World,
  now: Date,
  items: number,
): Promise<number> {
  // Sequelize types a connection as an object; with this dialect it is the driver’s client.
  const client = (await database.connectionManager.getConnection({
    type: 'write',
  })) as unknown as Client
  const folder = new Folder(world)
  let states = 0
  try {
    let waiting: LoadedItem[] = []
    for (const life of lives(now, items)) {
      const folded = folder.fold({
        ...life,
        acts: life.acts.filter((act) => act.at < now.getTime()),
      })
      waiting.push(folded)
      states += folded.states.length
      if (waiting.length === batch) {
        await copyStates(client, world, waiting)
        waiting = []
      }
    }
    await copyStates(client, world, waiting)
  } finally {
    database.connectionManager.releaseConnection(client)
  }
  return states
}

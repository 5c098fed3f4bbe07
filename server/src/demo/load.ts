import { once } from 'node:events'
import { type CopyStreamQuery, from as copyFrom } from 'pg-copy-streams'
import type { Client } from 'pg'
import type { Sequelize } from 'sequelize'
import { fieldColumn } from '../workspace/columns.ts'
import { inTransaction, rows, run } from '../database/connect.ts'
import { diff, emptyDocument, inWords } from '@bluestem/core/definitions'
import { itemIndexes } from '../database/migrations/0001-begin.ts'
import { textIndexes, treeIndex } from '../database/migrations/0006-text-index.ts'
import { project as projectTables } from '../definitions/projection.ts'
import { audit } from '../items/write.ts'
import { type World, Worlds } from '../workspace/world.ts'
import { hashPassword } from '../people/session.ts'
import { definitions, pastEditions } from './definitions.ts'
import { components, labels } from './labels.ts'
import { projects } from './projectList.ts'
import { lives, personId, zone } from './events.ts'
import { type Folded, Folder, type State } from './fold.ts'
import { keepQuestions } from './questions.ts'
import { emailOf, people } from './people.ts'
import { keepTeams } from './teams.ts'
import { keepTemplates } from './templates.ts'

/** Fills an empty, migrated database with Marrowmere Ferries as of a moment. */
export async function loadDemo(
  database: Sequelize,
  { now, items }: { now: Date; items: number },
): Promise<{ items: number; states: number }> {
  await loadVocabulary(database, now)
  const world = await new Worlds(database).now()
  const massive = items > 20_000
  const indexes = massive ? await indexesThere(database) : []
  for (const sql of indexes) await run(database, `DROP INDEX ${indexName(sql)}`)
  const states = await loadItems(database, world, now, items)
  for (const sql of indexes) await run(database, sql)
  if (massive) await run(database, 'ANALYZE item, item_version, item_text')
  await counters(database)
  await keepQuestions(database, await new Worlds(database).now(), now)
  await keepTemplates(database, now)
  await keepTeams(database, await new Worlds(database).now())
  await run(database, 'UPDATE setting SET loaded = true')
  return { items, states }
}

const indexName = (sql: string): string => /INDEX (\w+)/.exec(sql)![1]!

/** The indexes that a mass load makes anew behind its rows, those that this database has. */
async function indexesThere(database: Sequelize): Promise<string[]> {
  const found = new Set(
    (
      await rows<{ indexname: string }>(
        database,
        'SELECT indexname FROM pg_indexes WHERE schemaname = current_schema()',
      )
    ).map((one) => one.indexname),
  )
  return [
    ...itemIndexes.filter((sql) => indexName(sql) !== indexName(treeIndex)),
    treeIndex,
    ...textIndexes,
  ].filter((sql) => found.has(indexName(sql)))
}

async function loadPeople(database: Sequelize): Promise<void> {
  const password = await hashPassword('marrowmere')
  for (const [index, { name, role }] of people.entries())
    await run(
      database,
      'INSERT INTO person (id, identity, name, email, role, password) VALUES ($1, $2, $3, $4, $5, $6)',
      [index + 1, personId(index + 1), name, emailOf(name), role, password],
    )
}

async function loadProjects(database: Sequelize): Promise<void> {
  for (const { id, code, title, description, open } of projects)
    await run(
      database,
      'INSERT INTO project (identity, code, title, description, open) VALUES ($1, $2, $3, $4, $5)',
      [id, code, title, description, open],
    )
  for (const [index, person] of people.entries())
    for (const code of person.projects)
      await run(
        database,
        'INSERT INTO project_member (project_id, person_id) SELECT id, $2 FROM project WHERE code = $1',
        [code, index + 1],
      )
}

/** The editions of the past, each with what it changed, and the tables of the present one. */
async function loadEditions(database: Sequelize, now: Date): Promise<void> {
  for (const [index, past] of pastEditions.entries()) {
    const { daysAgo, by, note, document } = past
    const published = new Date(now.getTime() - daysAgo * 86_400_000)
    const number = index + 1
    const person = people.findIndex((one) => one.name === by) + 1
    await projectTables(database, document)
    const before = pastEditions[index - 1]?.document ?? emptyDocument
    const differences = diff(before, document)
    const words = index === 0 ? [note] : differences.map((one) => inWords(before, document, one))
    const paths = differences.map((one) => one.path)
    const [documentText, wordsText, pathsText] = [document, words, paths].map((one) =>
      JSON.stringify(one),
    )
    await run(
      database,
      'INSERT INTO edition (number, document, changes, paths, note, by_id, published_at) VALUES ($1, $2::jsonb, $3::jsonb, $4::jsonb, $5, $6, $7)',
      [number, documentText, wordsText, pathsText, note, person, published],
    )
    const after = { note, words, mappings: [] }
    await audit(database, person, 'published', `edition ${number}`, { after }, published)
  }
  await projectTables(database, definitions)
  await run(database, 'INSERT INTO current_edition (number) VALUES ($1)', [pastEditions.length])
}

async function loadLabels(database: Sequelize): Promise<void> {
  for (const { id, title, family, colour } of labels)
    await run(
      database,
      'INSERT INTO label (identity, title, family_number, colour) VALUES ($1, $2, (SELECT number FROM family WHERE identity = $3), $4)',
      [id, title, family, colour],
    )
  for (const { id, project, title } of components)
    await run(
      database,
      'INSERT INTO component (identity, title, project_id) SELECT $1, $2, id FROM project WHERE code = $3',
      [id, title, project],
    )
}

/** People, projects, labels, components and the editions, the present one last. */
async function loadVocabulary(database: Sequelize, now: Date): Promise<void> {
  await inTransaction(database, async () => {
    await run(
      database,
      'INSERT INTO setting (title, zone, demo, loaded) VALUES ($1, $2, true, false)',
      ['Marrowmere Ferries', zone],
    )
    await loadPeople(database)
    await loadProjects(database)
    await loadEditions(database, now)
    await loadLabels(database)
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
  const client = (await database.connectionManager.getConnection({
    type: 'write',
  })) as unknown as Client
  const folder = new Folder(world)
  const several = severalColumns(world)
  let states = 0
  try {
    let waiting: Folded[] = []
    for (const life of lives(now, items)) {
      const folded = folder.fold({
        ...life,
        acts: life.acts.filter((act) => act.at < now.getTime()),
      })
      waiting.push(folded)
      states += folded.states.length
      if (waiting.length === batch) {
        await copyBatch(client, world, several, waiting)
        waiting = []
      }
    }
    await copyBatch(client, world, several, waiting)
  } finally {
    database.connectionManager.releaseConnection(client)
  }
  return states
}

async function copyBatch(
  client: Client,
  world: World,
  several: ReadonlySet<string>,
  folded: readonly Folded[],
): Promise<void> {
  const columns = world.columns
  await copy(
    client,
    `item (id, row_from, ${columns.join(', ')})`,
    folded.map(({ id, states }) => [
      id,
      moment(states.at(-1)!.from),
      ...columns.map((column) => copied(states.at(-1)!, column, several)),
    ]),
  )
  await copy(
    client,
    `item_version (id, valid_from, valid_to, ${columns.join(', ')})`,
    folded.flatMap(({ id, states }) =>
      states
        .slice(0, -1)
        .map((state, index) => [
          id,
          moment(state.from),
          moment(states[index + 1]!.from),
          ...columns.map((column) => copied(state, column, several)),
        ]),
    ),
  )
  await copy(
    client,
    'item_text (item_id, valid_from, title, description)',
    folded.flatMap(({ id, texts }) =>
      texts.map((text) => [id, moment(text.from), text.title, text.description]),
    ),
  )
  await copy(
    client,
    'comment (item_id, body, by_id, at)',
    folded.flatMap(({ id, comments }) =>
      comments.map((comment) => [id, comment.body, comment.by, moment(comment.at)]),
    ),
  )
}

const moments = new Set([
  'created_at',
  'changed_at',
  'first_active_at',
  'first_done_at',
  'done_at',
  'held_since',
])
const moment = (at: number): string => new Date(at).toISOString()

/** Columns that hold several values; they are never NULL. */
const severalColumns = (world: World): Set<string> =>
  new Set([
    'labels',
    'components',
    'link_kinds',
    ...Object.entries(world.document.fields)
      .filter(([, { kind }]) => kind === 'several choices' || kind === 'people')
      .map(([id]) => fieldColumn(world.numbers.of('field', id)!)),
  ])

/** A column's value for COPY; an array that a state does not name is empty. */
function copied(state: State, column: string, several: ReadonlySet<string>): unknown {
  const value = state[column]
  if (value === null || value === undefined) return several.has(column) ? '{}' : null
  if (moments.has(column)) return moment(value as number)
  return Array.isArray(value) ? `{${value.join(',')}}` : value
}

async function copy(
  client: Client,
  target: string,
  lines: readonly (readonly unknown[])[],
): Promise<void> {
  if (lines.length === 0) return
  const stream: CopyStreamQuery = client.query(copyFrom(`COPY ${target} FROM STDIN`))
  const finished = once(stream, 'finish')
  for (let at = 0; at < lines.length; at += 500) {
    const text = lines
      .slice(at, at + 500)
      .map((line) => `${line.map(encoded).join('\t')}\n`)
      .join('')
    if (!stream.write(text)) await once(stream, 'drain')
  }
  stream.end()
  await finished
}

/** A value in COPY's text format. */
function encoded(value: unknown): string {
  if (value === null || value === undefined) return '\\N'
  if (typeof value === 'boolean') return value ? 't' : 'f'
  const text = typeof value === 'string' ? value : `${value as number}`
  return text.replace(
    /[\\\n\r\t]/g,
    (char) => ({ '\\': '\\\\', '\n': '\\n', '\r': '\\r', '\t': '\\t' })[char]!,
  )
}

/** Sequences and counters go on after what was loaded, and the planner learns what there is. */
async function counters(database: Sequelize): Promise<void> {
  for (const table of ['item', 'comment', 'person', 'project', 'label', 'component'])
    await rows(
      database,
      `SELECT setval(pg_get_serial_sequence('${table}', 'id'), (SELECT coalesce(max(id), 1) FROM ${table}))`,
    )
  await run(
    database,
    'UPDATE project p SET last_number = coalesce((SELECT max(number) FROM item WHERE project_id = p.id), 0)',
  )
  for (const table of ['item', 'item_version', 'item_text', 'comment'])
    await run(database, `VACUUM ANALYZE ${table}`)
}

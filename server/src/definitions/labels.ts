import { cleanText } from '@bluestem/core/work'
import type { Sequelize } from 'sequelize'
import { inTransaction, rows, run } from '../database/connect.ts'
import { atOnce, keepMapping, rewriteNow } from '../database/remap.ts'
import { tell } from '../database/write.ts'
import { visibleProjects, type Label, type World } from '../database/world.ts'
import { forbidden, invalid, notFound, refused } from '../http/problem.ts'
import { addJob } from '../jobs/jobs.ts'
import { replaceNamed } from '../kept/replace.ts'
import type { Acting } from '../work/find.ts'
import { newIdentity } from './identity.ts'
import { recorderOf } from './record.ts'
import { keepsProject, keptRulebooks } from './rights.ts'
import { changeVersion } from './versioned.ts'

export interface LabelGiven {
  readonly title?: string
  readonly description?: string
  readonly colour?: number
  readonly family?: string | null
  readonly project?: string | null
  readonly retired?: boolean
}

type ShownLabel = Omit<Label, 'number'>

const shown = ({
  id,
  title,
  family,
  colour,
  project,
  description,
  retired,
  version,
}: Omit<Label, 'number'>): ShownLabel => ({
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
export function labels({ world, person }: Acting): object {
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

/** Labels a person gave last, latest first. */
export async function recentLabels(
  database: Sequelize,
  { person, world }: Acting,
): Promise<object> {
  const found = await rows<{ label_id: number }>(
    database,
    'SELECT label_id FROM label_recent WHERE person_id = $1 ORDER BY at DESC LIMIT 12',
    [person.number],
  )
  return {
    recent: found.flatMap(
      ({ label_id }) =>
        world.labels.find((label) => label.number === label_id && !label.retired)?.id ?? [],
    ),
  }
}

export async function rememberLabels(
  database: Sequelize,
  person: number,
  given: readonly number[],
  now: Date,
): Promise<void> {
  for (const label of given)
    await run(
      database,
      'INSERT INTO label_recent (person_id, label_id, at) VALUES ($1, $2, $3) ON CONFLICT (person_id, label_id) DO UPDATE SET at = excluded.at',
      [person, label, now],
    )
}

/** Rulebooks that say a family is closed to members. */
const closing = (world: World, family: string): string[] =>
  Object.entries(world.document.rulebooks)
    .filter(([, rulebook]) => {
      const entry = rulebook.entries[`family:${family}`]
      return entry !== undefined && entry !== 'out' && entry.closed === true
    })
    .map(([id]) => id)

/** Who may make labels where: members, but in a closed family only its rulebook's keepers; in a project whoever sees it. */
function judgeMaking(
  { world, person }: Acting,
  family: string | null,
  project: string | null,
): void {
  if (person.role === 'administrator') return
  if (
    project !== null &&
    !visibleProjects(world, person).includes(world.numbers.of('project', project) ?? -1)
  )
    throw notFound('project of this identity')
  const closed = family === null ? [] : closing(world, family)
  if (
    closed.length > 0 &&
    !closed.some((rulebook) => keptRulebooks(world, person).includes(rulebook))
  )
    throw forbidden(
      `Members make no labels in “${world.document.families[family!]?.title}”: the family is closed. Ask a keeper of the rulebook.`,
    )
}

/** Who may change a label: administrators; keepers of its project; keepers of a rulebook that closes its family. */
function judgeChanging({ world, person }: Acting, label: Label): void {
  if (person.role === 'administrator') return
  if (label.project !== null && keepsProject(world, person, label.project)) return
  if (
    label.family !== null &&
    closing(world, label.family).some((rulebook) =>
      keptRulebooks(world, person).includes(rulebook),
    ) &&
    person.role === 'member'
  )
    return
  throw forbidden(
    label.project === null
      ? 'Only administrators change labels that everyone shares.'
      : 'Only the keepers of its project change this label.',
  )
}

function cleanLabel(title: string): string {
  const clean = cleanText(title)
  const text = clean.ok ? clean.text.trim().replace(/\s+/g, ' ') : ''
  if (!clean.ok || text === '' || text.length > 60)
    throw invalid([
      {
        pointer: '/title',
        message: clean.ok ? 'A label has a title of at most 60 characters.' : clean.message,
        expected: '1 to 60 characters',
      },
    ])
  return text
}

function place(
  { world }: Acting,
  family: string | null,
  project: string | null,
): { family: number | null; project: number | null } {
  const familyNumber =
    family === null
      ? null
      : world.document.families[family] && !world.document.families[family].retired
        ? world.numbers.of('family', family)
        : undefined
  if (familyNumber === undefined)
    throw invalid([
      {
        pointer: '/family',
        message: 'There is no such family.',
        expected: 'the identity of a family',
        found: family ?? '',
      },
    ])
  const projectNumber = project === null ? null : world.numbers.of('project', project)
  if (projectNumber === undefined)
    throw invalid([
      {
        pointer: '/project',
        message: 'There is no such project.',
        expected: 'the identity of a project',
        found: project ?? '',
      },
    ])
  return { family: familyNumber, project: projectNumber }
}

function judgeTitle(
  world: World,
  title: string,
  family: string | null,
  project: string | null,
  except?: string,
): void {
  const twin = world.labels.find(
    (label) =>
      !label.retired &&
      label.id !== except &&
      label.family === family &&
      label.project === project &&
      label.title.toLowerCase() === title.toLowerCase(),
  )
  if (twin)
    throw refused(
      `There is a label “${twin.title}” here already.`,
      [
        {
          pointer: '/title',
          message: 'This label exists.',
          expected: 'a title of its own',
          found: title,
        },
      ],
      { exists: twin.id },
    )
}

export async function makeLabel(
  database: Sequelize,
  acting: Acting,
  given: LabelGiven & { title: string },
): Promise<object> {
  const { family = null, project = null, colour = 1, description = '' } = given
  judgeMaking(acting, family, project)
  const title = cleanLabel(given.title)
  const at = place(acting, family, project)
  judgeTitle(acting.world, title, family, project)
  const id = newIdentity('la')
  return await inTransaction(database, async () => {
    await run(
      database,
      'INSERT INTO label (identity, title, family_number, project_id, colour, description) VALUES ($1, $2, $3, $4, $5, $6)',
      [id, title, at.family, at.project, colour, description],
    )
    await recorded(
      database,
      acting,
      'made a label',
      id,
      { after: { title, family, project } },
      { project: at.project },
    )
    return { id, title, family, project, colour, description, retired: false, version: 1 }
  })
}

const recorded = recorderOf('label')

function labelBy({ world, person }: Acting, id: string): Label {
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
  acting: Acting,
  id: string,
  given: LabelGiven,
  match: string,
): Promise<ShownLabel> {
  const label = labelBy(acting, id)
  judgeChanging(acting, label)
  const next = {
    ...label,
    ...given,
    ...(given.title === undefined ? {} : { title: cleanLabel(given.title) }),
  }
  if (given.family !== undefined || given.project !== undefined)
    judgeMaking(acting, next.family, next.project)
  const at = place(acting, next.family, next.project)
  if (!next.retired) judgeTitle(acting.world, next.title, next.family, next.project, id)
  return await inTransaction(database, async () => {
    const version = await changeVersion(database, 'label', id, match, {
      title: given.title === undefined ? undefined : { value: next.title },
      family_number: given.family === undefined ? undefined : { value: at.family },
      project_id: given.project === undefined ? undefined : { value: at.project },
      colour: given.colour === undefined ? undefined : { value: given.colour },
      description: given.description === undefined ? undefined : { value: given.description },
      retired: given.retired === undefined ? undefined : { value: given.retired },
    })
    await recorded(
      database,
      acting,
      given.retired === true ? 'retired a label' : 'changed a label',
      id,
      { before: shown(label), after: given },
      { project: at.project },
    )
    return shown({ ...next, version })
  })
}

/** What a merge did: items that held one of the others, those of them a job still rewrites, and all that hold the one now. */
export interface Merged {
  readonly items: number
  readonly left: number
  readonly held: number
}

/** Of two merges that concern the same, the later one is told. Whoever merges holds all of them until it is done. */
export async function judgeMerging(
  database: Sequelize,
  table: 'label' | 'component',
  merged: readonly Pick<Label, 'id' | 'title' | 'version'>[],
): Promise<void> {
  const found = await rows<{ identity: string; version: number }>(
    database,
    `SELECT identity, version FROM ${table} WHERE identity = ANY($1::text[]) ORDER BY id FOR UPDATE`,
    [merged.map((one) => one.id)],
  )
  const versions = new Map(found.map((one) => [one.identity, one.version]))
  const changed = merged.find((one) => versions.get(one.id) !== one.version)
  if (changed)
    throw refused(
      `Somebody changed “${changed.title}” at this moment; look at what is there now, then merge.`,
    )
}

/**
 * Makes several labels one: items that hold any of them hold the one, what is kept asks for the one, and the others are retired.
 * Few items are rewritten at once, many by a job; until it is done questions count the others as the one already.
 */
export async function mergeLabels(
  database: Sequelize,
  acting: Acting,
  into: string,
  from: readonly string[],
  most = atOnce,
): Promise<Merged> {
  const { world, person, now } = acting
  const [one, others] = [labelBy(acting, into), [...new Set(from)].map((id) => labelBy(acting, id))]
  for (const label of [one, ...others]) judgeChanging(acting, label)
  if (others.some((label) => label.id === into))
    throw invalid([
      {
        pointer: '/from',
        message: 'A label cannot be merged into itself.',
        expected: 'other labels',
      },
    ])
  if (one.retired)
    throw refused(`“${one.title}” is retired; bring it back first, or merge into another.`)
  if (
    one.family !== null &&
    world.document.families[one.family]?.pick === 'one' &&
    others.some((label) => label.family !== one.family)
  )
    throw refused(
      `“${world.document.families[one.family]!.title}” is pick one, so only labels of the same family can become “${one.title}”: an item might hold two of them.`,
    )
  return await inTransaction(database, async () => {
    await rows(database, 'SELECT number FROM current_edition FOR UPDATE')
    await judgeMerging(database, 'label', [one, ...others])
    let [items, left] = [0, 0]
    for (const label of others) {
      const mapping = await keepMapping(
        database,
        {
          edition: null,
          column: 'labels',
          from: label.number,
          to: one.number,
          phase: null,
          several: true,
          projects: world.whole.projects.map((project) => project.number),
          types: (await rows<{ number: number }>(database, 'SELECT number FROM item_type')).map(
            (type) => type.number,
          ),
          author: { kind: 'bulk job', number: person.number },
        },
        now,
      )
      items += mapping.total
      if (mapping.total <= most) await rewriteNow(database, world.columns, [mapping], now)
      else {
        left += mapping.total
        await addJob(database, 'mapping', `merge ${mapping.id}`, now, person.number, mapping.total)
      }
      await replaceNamed(database, label.id, into)
      await run(
        database,
        'UPDATE label SET retired = true, version = version + 1 WHERE identity = $1',
        [label.id],
      )
      await recorded(
        database,
        acting,
        'merged a label',
        label.id,
        { before: { title: label.title, items: mapping.total }, after: { into, title: one.title } },
        { project: world.numbers.of('project', label.project ?? '') ?? null },
      )
    }
    await tell(
      database,
      'label',
      into,
      { project: world.numbers.of('project', one.project ?? '') ?? null },
      now,
    )
    return {
      items,
      left,
      held: await countHolding(database, acting, 'labels', [
        one.number,
        ...others.map((label) => label.number),
      ]),
    }
  })
}

/** How many items whoever asks sees that hold any of several labels or components, each once: all of them hold the one after a merge. */
export async function countHolding(
  database: Sequelize,
  { world, person }: Acting,
  column: 'labels' | 'components',
  numbers: readonly number[],
): Promise<number> {
  const [found] = await rows<{ count: number }>(
    database,
    `SELECT count(*) AS count FROM item WHERE ${column} && $1::int[] AND NOT deleted AND project_id = ANY($2::int[])`,
    [numbers, visibleProjects(world, person)],
  )
  return found!.count
}

/** Lifts a project's label into a family that everyone shares, and makes its copies in other projects one with it. */
export async function liftLabel(
  database: Sequelize,
  acting: Acting,
  id: string,
  family: string | null,
  copies: readonly string[],
): Promise<Merged> {
  if (acting.person.role !== 'administrator')
    throw forbidden('Only administrators lift a label into what everyone shares.')
  const label = labelBy(acting, id)
  const lifted = {
    ...label,
    ...(await changeLabel(database, acting, id, { family, project: null, retired: false }, '*')),
  }
  const world = { ...acting.world, labelOf: new Map([...acting.world.labelOf, [id, lifted]]) }
  return copies.length === 0
    ? { items: 0, left: 0, held: await countHolding(database, acting, 'labels', [label.number]) }
    : await mergeLabels(database, { ...acting, world }, id, copies)
}

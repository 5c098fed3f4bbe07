import { dayOf } from '@bluestem/core/calendar'
import { chainOf } from '@bluestem/core/definitions'
import {
  blanksOf,
  fillInto,
  fillTemplate,
  mendTemplate,
  staleParts,
  type Filled,
  type Stale,
  type TemplateContent,
  type TemplateGround,
} from '@bluestem/core/work'
import type { Sequelize } from 'sequelize'
import { inTransaction, rows, run } from '../database/connect.ts'
import { visibleProjects, type World } from '../database/world.ts'
import { forbidden, invalid, judgeMatch, notFound, refused } from '../http/problem.ts'
import { find, type Acting } from '../work/find.ts'
import { linkItems } from '../work/links.ts'
import { edit, makeInside, readItem } from '../work/service.ts'
import { calendarOf } from './calendars.ts'
import { newIdentity } from './identity.ts'
import { recorderOf } from './record.ts'
import { keepsProject, keptRulebooks } from './rights.ts'

interface TemplateRow {
  readonly identity: string
  readonly title: string
  readonly description: string
  readonly rulebook: string | null
  readonly project: string | null
  readonly content: TemplateContent
  readonly retired: boolean
  readonly version: number
  readonly used_at: Date | null
  readonly changed_at: Date
}

const columns =
  't.identity, t.title, t.description, t.rulebook, (SELECT p.identity FROM project p WHERE p.id = t.project_id) AS project, t.content, t.retired, t.version, t.used_at, t.changed_at'

const recorded = recorderOf('template')

export const templateEtag = ({ version }: { version: number }): string => `"${version}"`

/** What a template is judged against: the rulebook it belongs to, or the one its project follows. */
function groundOf(
  world: World,
  template: Pick<TemplateRow, 'rulebook' | 'project'>,
): TemplateGround {
  const rulebook = template.rulebook ?? world.document.projects[template.project ?? ''] ?? ''
  return {
    document: world.document,
    rulebook,
    offered: (domain, id) => {
      if (domain === 'label')
        return world.labels.some(
          (label) =>
            label.id === id &&
            !label.retired &&
            (label.project === null || label.project === template.project),
        )
      if (domain === 'component')
        return world.components.some(
          (component) =>
            component.id === id && !component.retired && component.project === template.project,
        )
      if (domain === 'person') return id === 'me' || world.people.some((person) => person.id === id)
      return world.vocabulary.choice(domain, id) !== undefined
    },
  }
}

function mayKeep(
  { world, person }: Acting,
  template: Pick<TemplateRow, 'rulebook' | 'project'>,
): boolean {
  if (person.role === 'administrator') return true
  return template.project === null
    ? person.role === 'member' && keptRulebooks(world, person).includes(template.rulebook ?? '')
    : keepsProject(world, person, template.project)
}

function shown(acting: Acting, row: TemplateRow): object {
  const stales: readonly Stale[] = row.retired
    ? []
    : staleParts(row.content, groundOf(acting.world, row))
  return {
    id: row.identity,
    title: row.title,
    description: row.description,
    rulebook: row.rulebook,
    project: row.project,
    content: row.content,
    retired: row.retired,
    version: row.version,
    usedAt: row.used_at?.toISOString() ?? null,
    changedAt: row.changed_at.toISOString(),
    stale: stales,
    blanks: blanksOf(row.content),
    mayEdit: mayKeep(acting, row),
  }
}

const seen = (acting: Acting): readonly number[] => visibleProjects(acting.world, acting.person)

export async function templates(database: Sequelize, acting: Acting): Promise<object> {
  const found = await rows<TemplateRow>(
    database,
    `SELECT ${columns} FROM template t WHERE t.project_id IS NULL OR t.project_id = ANY($1::int[]) ORDER BY t.title COLLATE "und-x-icu", t.id`,
    [seen(acting)],
  )
  return { templates: found.map((row) => shown(acting, row)) }
}

/** The templates that may be used in a project: its own, and those of the rulebooks it rests on. */
export async function templatesFor(
  database: Sequelize,
  acting: Acting,
  project: World['projects'][number],
): Promise<object[]> {
  const { document } = acting.world
  const found = await rows<TemplateRow>(
    database,
    `SELECT ${columns} FROM template t WHERE NOT t.retired AND (t.project_id = $1 OR t.rulebook = ANY($2::text[])) ORDER BY t.title COLLATE "und-x-icu", t.id`,
    [project.number, chainOf(document, document.projects[project.id] ?? '')],
  )
  return found.map((row) => ({
    id: row.identity,
    title: row.title,
    description: row.description,
    type: row.content.item.type,
    below: row.content.children.length,
    blanks: blanksOf(row.content),
  }))
}

async function templateBy(
  database: Sequelize,
  acting: Acting,
  id: string,
  lock: '' | 'FOR UPDATE OF t' = '',
): Promise<TemplateRow> {
  const [row] = await rows<TemplateRow>(
    database,
    `SELECT ${columns} FROM template t WHERE t.identity = $2 AND (t.project_id IS NULL OR t.project_id = ANY($1::int[])) ${lock}`,
    [seen(acting), id],
  )
  if (!row) throw notFound('template of this identity')
  return row
}

export async function readTemplate(
  database: Sequelize,
  acting: Acting,
  id: string,
): Promise<{ body: object; etag: string }> {
  const row = await templateBy(database, acting, id)
  return { body: shown(acting, row), etag: templateEtag(row) }
}

export interface TemplateGiven {
  readonly title?: string
  readonly description?: string
  readonly content?: TemplateContent
  readonly retired?: boolean
}

function judgeContent(
  acting: Acting,
  owner: Pick<TemplateRow, 'rulebook' | 'project'>,
  content: TemplateContent,
): void {
  const found = staleParts(content, groundOf(acting.world, owner))
  if (found.length > 0)
    throw invalid(
      found.map(({ pointer, message, mend }) => ({
        pointer: `/content${pointer}`,
        message,
        expected: mend ?? 'something the rulebook offers',
      })),
    )
}

export async function makeTemplate(
  database: Sequelize,
  acting: Acting,
  given: TemplateGiven & {
    title: string
    content: TemplateContent
    rulebook?: string
    project?: string
  },
): Promise<{ body: object; etag: string }> {
  const { world, person, now } = acting
  const owner = { rulebook: given.rulebook ?? null, project: given.project ?? null }
  if ((owner.rulebook === null) === (owner.project === null))
    throw invalid([
      {
        pointer: '/rulebook',
        message: 'A template belongs to a rulebook or to a project.',
        expected: 'one of them',
      },
    ])
  if (owner.rulebook !== null && !world.document.rulebooks[owner.rulebook])
    throw invalid([
      {
        pointer: '/rulebook',
        message: 'There is no such rulebook.',
        expected: 'the identity of a rulebook',
        found: owner.rulebook,
      },
    ])
  const project = owner.project === null ? null : world.numbers.of('project', owner.project)
  if (project === undefined || (project !== null && !seen(acting).includes(project)))
    throw notFound('project of this identity')
  if (!mayKeep(acting, owner))
    throw forbidden('Only the keepers of the rulebook or project make its templates.')
  judgeContent(acting, owner, given.content)
  const id = newIdentity('te')
  return await inTransaction(database, async () => {
    await run(
      database,
      'INSERT INTO template (identity, title, description, rulebook, project_id, content, changed_at, changed_by) VALUES ($1, $2, $3, $4, $5, $6::jsonb, $7, $8)',
      [
        id,
        given.title.trim(),
        given.description ?? '',
        owner.rulebook,
        project,
        JSON.stringify(given.content),
        now,
        person.number,
      ],
    )
    await recorded(
      database,
      acting,
      'made a template',
      id,
      { after: { title: given.title } },
      { project },
    )
    return await readTemplate(database, acting, id)
  })
}

export async function changeTemplate(
  database: Sequelize,
  acting: Acting,
  id: string,
  given: TemplateGiven,
  match: string,
): Promise<{ body: object; etag: string }> {
  const { person, now } = acting
  return await inTransaction(database, async () => {
    const row = await templateBy(database, acting, id, 'FOR UPDATE OF t')
    if (!mayKeep(acting, row))
      throw forbidden('Only the keepers of its rulebook or project change this template.')
    judgeMatch(match, templateEtag(row), { title: row.title })
    if (given.content) judgeContent(acting, row, given.content)
    await run(
      database,
      'UPDATE template SET title = $2, description = $3, content = $4::jsonb, retired = $5, version = version + 1, changed_at = $6, changed_by = $7 WHERE identity = $1',
      [
        id,
        given.title?.trim() || row.title,
        given.description ?? row.description,
        JSON.stringify(given.content ?? row.content),
        given.retired ?? row.retired,
        now,
        person.number,
      ],
    )
    await recorded(
      database,
      acting,
      given.retired ? 'retired a template' : 'changed a template',
      id,
      { before: { title: row.title, content: row.content }, after: given },
      { project: acting.world.numbers.of('project', row.project ?? '') ?? null },
    )
    return await readTemplate(database, acting, id)
  })
}

/** Takes out of a template what no longer fits. */
export async function mend(
  database: Sequelize,
  acting: Acting,
  id: string,
  match: string,
): Promise<{ body: object; etag: string }> {
  const row = await templateBy(database, acting, id)
  const content = mendTemplate(row.content, groundOf(acting.world, row))
  const left = staleParts(content, groundOf(acting.world, row))
  if (left.length > 0)
    throw refused(
      `This takes a decision: ${left[0]!.message}`,
      left.map(({ pointer, message }) => ({ pointer: `/content${pointer}`, message })),
    )
  return await changeTemplate(database, acting, id, { content }, match)
}

export interface Using {
  readonly project: string
  readonly blanks?: Readonly<Record<string, string>>
  readonly title?: string
  readonly over?: Readonly<Record<string, unknown>>
}

/** A template's items for a project, without what no longer fits, and what was left out. */
function filledFor(
  acting: Acting,
  row: TemplateRow,
  { project: code, blanks = {} }: Using,
): {
  project: World['projects'][number]
  items: Filled[]
  left: readonly Stale[]
  content: TemplateContent
} {
  const { world, now } = acting
  const project = world.projects.find((one) => one.code === code || one.id === code)
  if (!project || !seen(acting).includes(project.number)) throw notFound('project of this code')
  const ground = groundOf(world, { rulebook: null, project: project.id })
  const left = staleParts(row.content, ground)
  const undecided = left.find((one) => one.mend === null)
  if (undecided)
    throw refused(
      `This template does not fit ${project.title}: ${undecided.message}`,
      left.map(({ pointer, message }) => ({ pointer, message })),
    )
  const content = mendTemplate(row.content, ground)
  return {
    project,
    left,
    content,
    items: fillTemplate(content, {
      today: dayOf(now.getTime(), world.zone),
      working: calendarOf(world, project.id),
      blanks,
    }),
  }
}

/** What a form is filled with when a template is opened in it. */
export async function fill(
  database: Sequelize,
  acting: Acting,
  id: string,
  using: Using,
): Promise<object> {
  const { items, left } = filledFor(acting, await templateBy(database, acting, id), using)
  return { item: items[0], children: items.slice(1), left }
}

/** Makes a template's item with everything below it: all of them, or none. */
export async function makeFrom(
  database: Sequelize,
  acting: Acting,
  id: string,
  using: Using,
): Promise<object> {
  const row = await templateBy(database, acting, id)
  const { project, items, left, content } = filledFor(acting, row, using)
  return await inTransaction(database, async () => {
    const refs = new Map<string, string>()
    for (const item of items) {
      const parent = item.under === null ? undefined : refs.get(item.under)
      const title = item.under === null && using.title?.trim() ? using.title.trim() : item.title
      const over = item.under === null ? (using.over ?? {}) : {}
      const fields = {
        ...withMe(acting, item.fields),
        ...(over['fields'] as Record<string, unknown> | undefined),
      }
      const given = {
        ...(item.description === undefined ? {} : { description: item.description }),
        ...withMe(acting, item.values),
        ...(parent ? { parent } : {}),
        ...over,
        ...(Object.keys(fields).length > 0 ? { fields } : {}),
        project: project.code,
        type: item.type,
        title,
      }
      refs.set(
        item.key,
        (await makeInside(database, acting, given as Parameters<typeof makeInside>[2], undefined))
          .ref,
      )
    }
    for (const link of content.links)
      await linkItems(database, acting, link.kind, refs.get(link.from)!, refs.get(link.to)!)
    await run(database, 'UPDATE template SET used_at = $2 WHERE identity = $1', [id, acting.now])
    return { ref: refs.get('item'), refs: [...refs.values()], left }
  })
}

const withMe = (
  { person }: Acting,
  values: Readonly<Record<string, unknown>>,
): Record<string, unknown> =>
  Object.fromEntries(
    Object.entries(values).map(([handle, value]) => [
      handle,
      value === 'me'
        ? person.id
        : Array.isArray(value)
          ? value.map((one: unknown) => (one === 'me' ? person.id : one))
          : value,
    ]),
  )

export interface Applying extends Omit<Using, 'project'> {
  readonly ref: string
  readonly how: 'fill' | 'replace'
  readonly keep: boolean
}

/** Applies a template's item to one that exists, or tells what that would change. */
export async function applyTo(
  database: Sequelize,
  acting: Acting,
  id: string,
  { ref, how, keep, blanks }: Applying,
  match: string,
): Promise<object> {
  const row = await templateBy(database, acting, id)
  const { project } = await find(database, acting, ref)
  const {
    items: [item],
    left,
  } = filledFor(acting, row, { project: project.code, ...(blanks ? { blanks } : {}) })
  const { body } = await readItem(database, acting, ref)
  const held = body as Readonly<Record<string, unknown>> & {
    fields?: Readonly<Record<string, unknown>>
  }
  const plain = (of: Readonly<Record<string, unknown>>): Record<string, unknown> =>
    Object.fromEntries(Object.entries(of).map(([handle, value]) => [handle, bare(value)]))
  const values = fillInto(
    {
      ...withMe(acting, item!.values),
      ...(item!.description === undefined ? {} : { description: item!.description }),
    },
    plain(held),
    how,
  )
  const fields = fillInto(withMe(acting, item!.fields), plain(held.fields ?? {}), how)
  if (keep) {
    if (Object.keys(values).length + Object.keys(fields).length > 0)
      await edit(
        database,
        acting,
        ref,
        { ...values, ...(Object.keys(fields).length > 0 ? { fields } : {}) },
        match,
      )
    await run(database, 'UPDATE template SET used_at = $2 WHERE identity = $1', [id, acting.now])
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
const bare = (value: unknown): unknown =>
  Array.isArray(value)
    ? value.map(bare)
    : value !== null && typeof value === 'object' && 'id' in value
      ? value.id
      : value

/** A template made from an item that exists, with what stands below it if wished. */
export async function contentFrom(
  database: Sequelize,
  acting: Acting,
  ref: string,
  withChildren: boolean,
): Promise<{ content: TemplateContent; left: readonly Stale[] }> {
  const { document } = acting.world
  const node = async (
    one: string,
  ): Promise<{ item: TemplateContent['item']; children: readonly { ref: string }[] }> => {
    const { body } = await readItem(database, acting, one)
    const held = body as Readonly<Record<string, unknown>> & {
      title: string
      type: { id: string }
      fields?: Readonly<Record<string, unknown>>
      children: readonly { ref: string }[]
    }
    const given = ['priority', 'labels', 'components', 'assignee', 'estimate'].map(
      (handle) => [handle, bare(held[handle])] as const,
    )
    const filled = (entries: readonly (readonly [string, unknown])[]): Record<string, unknown> =>
      Object.fromEntries(
        entries.filter(
          ([, value]) =>
            value !== null && value !== undefined && !(Array.isArray(value) && value.length === 0),
        ),
      )
    const own = Object.entries(held.fields ?? {})
      .filter(
        ([handle]) =>
          !Object.values(document.fields).some(
            (field) =>
              field.handle === handle && (field.kind === 'score' || field.kind === 'roll-up'),
          ),
      )
      .map(([handle, value]) => [handle, bare(value)] as const)
    const description = held['description'] as string | null
    return {
      item: {
        title: held.title,
        type: held.type.id,
        ...(description ? { description } : {}),
        values: filled(given),
        fields: filled(own),
      },
      children: held.children,
    }
  }
  const top = await node(ref)
  const children = withChildren
    ? await Promise.all(
        top.children
          .slice(0, 200)
          .map(async (child, index) => ({ key: `c${index + 1}`, ...(await node(child.ref)).item })),
      )
    : []
  const { project } = await find(database, acting, ref)
  return fitting(
    { item: top.item, children, links: [] },
    groundOf(acting.world, { rulebook: null, project: project.id }),
  )
}

/** A template without what does not fit its rulebook, and what that was: values are taken out, and children that no mend helps. */
function fitting(
  content: TemplateContent,
  ground: TemplateGround,
): { content: TemplateContent; left: readonly Stale[] } {
  const left = staleParts(content, ground)
  const undecided = new Set(
    left
      .filter((part) => part.mend === null)
      .map((part) => part.pointer.split('/').slice(0, 3).join('/')),
  )
  const kept = {
    ...content,
    children: content.children.filter((_, index) => !undecided.has(`/children/${index}`)),
  }
  return { content: mendTemplate(kept, ground), left }
}

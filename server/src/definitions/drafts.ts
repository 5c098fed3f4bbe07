import {
  addEdits,
  DefinitionsDocument,
  diff,
  fold,
  impact,
  inWords,
  judgeSuccession,
  openNeeds,
  overtaken,
  rebase,
  restingOn,
  validate,
  type Change,
  type Clash,
  type ClashChoices,
  type Edit,
  type MappingChoices,
  type Touched,
} from '@bluestem/core/definitions'
import type { Sequelize } from 'sequelize'
import { inTransaction, rows, run } from '../database/connect.ts'
import { visibleProjects, type World } from '../database/world.ts'
import { audit, tell } from '../database/write.ts'
import { judge } from '../http/endpoint.ts'
import { forbidden, invalid, judgeMatch, notFound, refused, stale } from '../http/problem.ts'
import type { Acting } from '../work/find.ts'
import type { Placing } from './boards.ts'
import { documentOf, projectTitles } from './editions.ts'
import { newIdentity } from './identity.ts'
import { usageLately } from './lately.ts'
import { judgeDrafting, judgeRight, mayDefine } from './rights.ts'
import { clocksTouched, countChanges, countTogether, type CountedChange } from './touched.ts'
import { usageOf } from './usage.ts'

/** A draft as it is kept. */
export interface Draft {
  readonly id: number
  readonly identity: string
  readonly title: string
  readonly base: number
  readonly changes: readonly Change[]
  readonly version: number
  readonly made_by: number
  readonly made_at: Date
  readonly choices: MappingChoices
  readonly boards: readonly Placing[]
  readonly proposed: boolean
  readonly publish_at: Date | null
  readonly publish_by: number | null
  readonly publish_note: string
}

const columns =
  'id, identity, title, base, changes, version, made_by, made_at, choices, boards, proposed, publish_at, publish_by, publish_note'

export async function draftBy(
  database: Sequelize,
  identity: string,
  lock: '' | 'FOR UPDATE' = '',
): Promise<Draft> {
  const [draft] = await rows<Draft>(
    database,
    `SELECT ${columns} FROM draft WHERE closed_at IS NULL AND identity = $1 ${lock}`,
    [identity],
  )
  if (!draft) throw notFound('open draft of this identity')
  return draft
}

export const draftEtag = (draft: Pick<Draft, 'version'>): string => `"${draft.version}"`

/** A draft put on the current edition: its changes as they are there, or what clashes. */
export interface Based {
  readonly changes: readonly Change[]
  readonly clashes: readonly Clash[]
}

export async function onCurrent(
  database: Sequelize,
  { whole: world }: World,
  draft: Pick<Draft, 'base' | 'changes'>,
  choices: ClashChoices = {},
): Promise<Based> {
  if (draft.base === world.edition) return { changes: draft.changes, clashes: [] }
  const base = await documentOf(database, draft.base)
  const rebased = rebase(base, draft.changes, world.document, choices)
  if (rebased.ok) return { changes: rebased.changes, clashes: [] }
  // What clashes is shown as the newer edition has it until it is decided.
  const theirs = rebase(base, draft.changes, world.document, {
    ...Object.fromEntries(rebased.clashes.map((clash) => [JSON.stringify(clash.path), 'theirs'])),
    ...choices,
  } as ClashChoices)
  return { changes: theirs.ok ? theirs.changes : [], clashes: rebased.clashes }
}

/** Fields whose options changes touch: those are counted, option by option. */
export const fieldsWithOptions = (changes: readonly Pick<Change, 'path'>[]): string[] => [
  ...new Set(
    changes
      .filter(
        (change) =>
          change.path[0] === 'fields' &&
          (change.path[2] === undefined || change.path[2] === 'options'),
      )
      .map((change) => change.path[1]!),
  ),
]

/** What is counted for somebody: the items of the projects they see. Administrators see all. */
export const countedProjects = ({ world, person }: Acting): number[] =>
  visibleProjects(world, person)

/** A draft as it travels: its changes in words with what each touches, what must still be answered, and what is wrong with its document. */
async function describeDraft(
  database: Sequelize,
  acting: Acting,
  draft: Draft,
): Promise<{ body: object; etag: string }> {
  const { world } = acting
  const { changes, clashes } = await onCurrent(database, world, draft)
  const before = world.whole.document
  const document = fold(before, changes)
  const usage = await usageLately(database, world, countedProjects(acting), {
    optionsOf: fieldsWithOptions(changes),
  })
  const found = impact(before, document, changes, usage, draft.choices)
  const counted = await countChanges(database, acting, found.changes)
  const [failed] = await rows<{ failed: string }>(
    database,
    `SELECT failed FROM job WHERE kind = 'publish' AND subject = $1 AND failed IS NOT NULL ORDER BY id DESC LIMIT 1`,
    [draft.identity],
  )
  return {
    etag: draftEtag(draft),
    body: {
      id: draft.identity,
      title: draft.title,
      base: draft.base,
      etag: draftEtag(draft),
      proposed: draft.proposed,
      by: nameOf(world, draft.made_by),
      at: draft.made_at.toISOString(),
      document,
      mayPublish: changes.every((change) => mayDefine(acting, change.path)),
      changes: changes.map((change, index) => ({
        ...told(world, document, change, counted[index]!),
        undoable: restingOn(changes, change.id).length === 0,
      })),
      problems: [...validate(document), ...judgeSuccession(before, document)],
      clashes,
      needs: found.needs,
      open: openNeeds(found.needs, draft.choices).map((need) => need.key),
      choices: draft.choices,
      boards: draft.boards,
      touched: {
        ...namedBy(counted),
        items: await countTogether(database, acting, found.changes),
        clocks: await clocksTouched(database, acting, document, found.changes),
      },
      schedule: draft.publish_at && {
        at: draft.publish_at.toISOString(),
        by: nameOf(world, draft.publish_by),
        note: draft.publish_note,
      },
      failed: draft.publish_at ? null : (failed?.failed ?? null),
    },
  }
}

const nameOf = (world: World, number: number | null): string =>
  world.people.find((person) => person.number === number)?.name ?? ''

function told(
  world: World,
  document: DefinitionsDocument,
  change: Change,
  touched: CountedChange,
): object {
  const by = world.people.find((person) => person.id === change.by)?.name ?? change.by
  return {
    id: change.id,
    by,
    at: change.at,
    path: change.path,
    words: inWords(world.whole.document, document, change, projectTitles(world)),
    items: touched.items,
    ...(touched.filter ? { filter: touched.filter } : {}),
    named: touched.named,
    forms: touched.forms,
  }
}

/** Everything kept that any change of a draft concerns, counted by its kind. */
function namedBy(changes: readonly Touched[]): object {
  const named = new Map(
    changes
      .flatMap((change) => change.named)
      .map((one) => [`${one.kind} ${one.id} ${one.title}`, one.kind]),
  )
  const kinds = [...named.values()]
  return {
    named: Object.fromEntries(
      [...new Set(kinds)].map((kind) => [kind, kinds.filter((one) => one === kind).length]),
    ),
  }
}

/** The open drafts, each by what it is: what is in one, and what it touches, is told when it is read. */
export async function drafts(database: Sequelize, { world }: Acting): Promise<object> {
  const open = await rows<
    Pick<Draft, 'identity' | 'title' | 'base' | 'version' | 'proposed' | 'made_by' | 'made_at'> & {
      count: number
    }
  >(
    database,
    'SELECT identity, title, base, version, proposed, made_by, made_at, jsonb_array_length(changes) AS count FROM draft WHERE closed_at IS NULL ORDER BY id',
  )
  return {
    drafts: open.map((draft) => ({
      id: draft.identity,
      title: draft.title,
      base: draft.base,
      etag: draftEtag(draft),
      proposed: draft.proposed,
      by: nameOf(world, draft.made_by),
      at: draft.made_at.toISOString(),
      count: draft.count,
    })),
  }
}

export async function readDraft(
  database: Sequelize,
  acting: Acting,
  identity: string,
): Promise<{ body: object; etag: string }> {
  return await describeDraft(database, acting, await draftBy(database, identity))
}

/** Opens a draft. */
export async function makeDraft(
  database: Sequelize,
  acting: Acting,
  title: string,
  edits: readonly Edit[] = [],
): Promise<{ body: object; etag: string }> {
  judgeDrafting(acting)
  judgeRight(
    acting,
    edits.map((edit) => edit.path),
  )
  return await begin(database, acting, title, edits, false)
}

/** What a member proposes: a draft that waits for those who may publish it. */
export async function propose(
  database: Sequelize,
  acting: Acting,
  title: string,
  edits: readonly Edit[],
): Promise<{ body: object; etag: string }> {
  const [waiting] = await rows<{ count: number }>(
    database,
    'SELECT count(*) AS count FROM draft WHERE closed_at IS NULL AND proposed AND made_by = $1',
    [acting.person.number],
  )
  if (waiting!.count >= 20)
    throw refused('Twenty proposals of yours are waiting already; withdraw one of them first.')
  return await begin(database, acting, title, edits, true)
}

async function begin(
  database: Sequelize,
  acting: Acting,
  title: string,
  edits: readonly Edit[],
  proposed: boolean,
): Promise<{ body: object; etag: string }> {
  const { world, person, now } = acting
  return await inTransaction(database, async () => {
    const changes = added(acting, [], edits)
    const [draft] = await rows<Draft>(
      database,
      `INSERT INTO draft (identity, title, base, changes, proposed, made_by, made_at) VALUES ($1, $2, $3, $4::jsonb, $5, $6, $7) RETURNING ${columns}`,
      [
        newIdentity('dr'),
        title,
        world.edition,
        JSON.stringify(changes),
        proposed,
        person.number,
        now,
      ],
    )
    await audit(
      database,
      person.number,
      proposed ? 'proposed' : 'began a draft',
      `draft ${draft!.identity}`,
      { after: { title, changes: changes.length } },
      now,
    )
    await tell(database, 'draft', draft!.identity, {}, now)
    return await describeDraft(database, acting, draft!)
  })
}

/** Changes with edits added. The document need not be sound yet, only well formed; publishing asks for more. */
function added(
  { world: { whole: world }, person, now }: Acting,
  before: readonly Change[],
  edits: readonly Edit[],
): readonly Change[] {
  const overtakenOnes = overtaken(fold(world.document, before), edits)
  if (overtakenOnes.length > 0)
    throw stale(overtakenOnes.map(({ path, there }) => ({ pointer: `/${path.join('/')}`, there })))
  const made = (): Pick<Change, 'id' | 'by' | 'at'> => ({
    id: newIdentity('ch'),
    by: person.id,
    at: now.toISOString(),
  })
  const changes = addEdits(world.document, before, edits, made)
  const document = fold(world.document, changes)
  judge(DefinitionsDocument, document)
  const problems = judgeSuccession(world.document, document)
  if (problems.length > 0) throw invalid(problems)
  return changes
}

export interface DraftEditing {
  readonly title?: string
  readonly edits?: readonly Edit[]
  readonly choices?: MappingChoices
  readonly boards?: readonly Placing[]
  readonly publishAt?: null
}

/** Adds edits, answers and placings to a draft, and calls off a publishing that was set for later. */
export async function editDraft(
  database: Sequelize,
  acting: Acting,
  identity: string,
  { edits = [], ...given }: DraftEditing,
  match: string,
): Promise<{ body: object; etag: string }> {
  judgeDrafting(acting)
  judgeRight(
    acting,
    edits.map((edit) => edit.path),
  )
  return await changing(database, acting, identity, match, async (draft, changes) => {
    const after = added(acting, changes, edits)
    const document = fold(acting.world.whole.document, after)
    const said = [
      ...edits.map((edit) =>
        inWords(
          acting.world.whole.document,
          document,
          { path: edit.path, after: edit.after, before: undefined },
          projectTitles(acting.world),
        ),
      ),
      ...Object.keys(given),
    ]
    await audit(
      database,
      acting.person.number,
      'changed a draft',
      `draft ${identity}`,
      { after: said.slice(0, 50) },
      acting.now,
    )
    return {
      ...draft,
      ...('title' in given ? { title: given.title! } : {}),
      choices: { ...draft.choices, ...given.choices },
      boards: given.boards ?? draft.boards,
      changes: after,
      ...(given.publishAt === null ? { publish_at: null, publish_by: null } : {}),
    }
  })
}

/** Decides the clashes of a draft that was begun on an older edition, and puts it on the current one. */
export async function rebaseDraft(
  database: Sequelize,
  acting: Acting,
  identity: string,
  choices: ClashChoices,
  match: string,
): Promise<{ body: object; etag: string }> {
  judgeDrafting(acting)
  return await changing(
    database,
    acting,
    identity,
    match,
    async (draft) => {
      await audit(
        database,
        acting.person.number,
        'put a draft on the current edition',
        `draft ${identity}`,
        { before: draft.base, after: { edition: acting.world.edition, choices } },
        acting.now,
      )
      return draft
    },
    choices,
  )
}

/** Takes one change of a draft back, unless later changes rest on it. */
export async function undoChange(
  database: Sequelize,
  acting: Acting,
  identity: string,
  change: string,
  match: string,
): Promise<{ body: object; etag: string }> {
  const { world } = acting
  const before = world.whole.document
  judgeDrafting(acting)
  return await changing(database, acting, identity, match, async (draft, changes) => {
    const found = changes.find((one) => one.id === change)
    if (!found) throw notFound('change of this draft')
    judgeRight(acting, [found.path])
    const resting = restingOn(changes, change)
    const document = fold(before, changes)
    if (resting.length > 0)
      throw refused(
        `Later changes rest on this one; undo them first: ${resting.map((one) => inWords(before, document, one, projectTitles(world))).join('; ')}.`,
      )
    await audit(
      database,
      acting.person.number,
      'undid a change of a draft',
      `draft ${identity}`,
      { before: inWords(before, document, found, projectTitles(world)) },
      acting.now,
    )
    return { ...draft, changes: changes.filter((one) => one.id !== change) }
  })
}

/** Changes a draft in one transaction, first put on the current edition. @throws Problem 409 with the clashes where that takes a decision */
async function changing(
  database: Sequelize,
  acting: Acting,
  identity: string,
  match: string,
  change: (draft: Draft, changes: readonly Change[]) => Promise<Draft>,
  choices: ClashChoices = {},
): Promise<{ body: object; etag: string }> {
  return await inTransaction(database, async () => {
    const draft = await draftBy(database, identity, 'FOR UPDATE')
    judgeVersion(draft, match)
    const based = await onCurrent(database, acting.world, draft, choices)
    judgeClashes(based)
    const next = await change({ ...draft, changes: based.changes }, based.changes)
    const [kept] = await rows<Draft>(
      database,
      `UPDATE draft SET changes = $2::jsonb, title = $3, base = $4, choices = $5::jsonb, boards = $6::jsonb, publish_at = $7, publish_by = $8, version = version + 1 WHERE id = $1 RETURNING ${columns}`,
      [
        draft.id,
        JSON.stringify(next.changes),
        next.title,
        acting.world.edition,
        JSON.stringify(next.choices),
        JSON.stringify(next.boards),
        next.publish_at,
        next.publish_by,
      ],
    )
    await tell(database, 'draft', identity, {}, acting.now)
    return await describeDraft(database, acting, kept!)
  })
}

export function judgeVersion(draft: Draft, match: string): void {
  judgeMatch(match, draftEtag(draft), { changes: draft.changes.length })
}

export function judgeClashes({ clashes }: Based): void {
  if (clashes.length > 0)
    throw refused(
      'An edition published since this draft was begun changed the same things otherwise; decide each of them first.',
      clashes.map((clash) => ({
        pointer: `/${clash.path.join('/')}`,
        message: 'Changed in two ways.',
      })),
      { clashes },
    )
}

/** Drops a draft; whoever proposed one may withdraw it. */
export async function dropDraft(
  database: Sequelize,
  acting: Acting,
  identity: string,
  match: string,
): Promise<void> {
  const { person, now } = acting
  await inTransaction(database, async () => {
    const draft = await draftBy(database, identity, 'FOR UPDATE')
    judgeVersion(draft, match)
    if (!(draft.proposed && draft.made_by === person.number)) {
      judgeDrafting(acting)
      if (!draft.changes.every((change) => mayDefine(acting, change.path)))
        throw forbidden(
          'This draft changes what you may not change, so you may not drop it either.',
        )
    }
    await run(database, 'UPDATE draft SET closed_at = $2 WHERE id = $1', [draft.id, now])
    await audit(
      database,
      person.number,
      'dropped a draft',
      `draft ${identity}`,
      { before: { title: draft.title, changes: draft.changes.length } },
      now,
    )
    await tell(database, 'draft', identity, {}, now)
  })
}

export async function impactOf(
  database: Sequelize,
  acting: Acting,
  identity: string,
): Promise<object> {
  const draft = await draftBy(database, identity)
  const { changes } = await onCurrent(database, acting.world, draft)
  const { document: before } = acting.world.whole
  const document = fold(before, changes)
  const differences = diff(before, document)
  const found = impact(
    before,
    document,
    differences,
    await usageOf(database, acting.world, countedProjects(acting), {
      optionsOf: fieldsWithOptions(differences),
    }),
    draft.choices,
  )
  return {
    ...found,
    changes: await countChanges(database, acting, found.changes),
    items: await countTogether(database, acting, found.changes),
  }
}

import { randomBytes } from 'node:crypto'
import { addEdit, DefinitionsDocument, diff, fold, impact, inWords, makeIdentity, restingOn, validate, type Change, type Edit, type Touched, type Usage } from '@bluestem/core/definitions'
import type { Sequelize } from 'sequelize'
import { inTransaction, rows, run } from '../database/connect.ts'
import { project as projectTables } from '../database/projection.ts'
import { visibleProjects, type World } from '../database/world.ts'
import { audit, tell } from '../database/write.ts'
import { judge } from '../http/endpoint.ts'
import { invalid, notFound, Problem, refused, stale } from '../http/problem.ts'
import type { Acting } from '../work/find.ts'
import { usageOf } from './usage.ts'

/** A draft as it is kept. */
interface Draft { readonly id: number; readonly identity: string; readonly title: string; readonly base: number; readonly changes: readonly Change[]; readonly version: number; readonly made_by: number; readonly made_at: Date }

export const newIdentity = (prefix: string): string => makeIdentity(prefix, randomBytes(8))

const openDraft = async (database: Sequelize, lock = ''): Promise<Draft | undefined> => (await rows<Draft>(database, `SELECT id, identity, title, base, changes, version, made_by, made_at FROM draft WHERE closed_at IS NULL ${lock}`))[0]

async function draftBy(database: Sequelize, identity: string, lock = ''): Promise<Draft> {
  const draft = await openDraft(database, lock)
  if (draft?.identity !== identity) throw notFound('open draft of this identity')
  return draft
}

export const draftEtag = (draft: Draft): string => `"${draft.version}"`

/** The current document, its edition, and what was published last. */
export async function current(database: Sequelize, world: World): Promise<object> {
  const [edition] = await rows<{ number: number; note: string; published_at: Date; by: string | null }>(database, 'SELECT e.number, e.note, e.published_at, p.name AS by FROM edition e LEFT JOIN person p ON p.id = e.by_id WHERE e.number = $1', [world.edition])
  return { edition, document: world.document }
}

/** Every edition: who published it, when, why, and what it changed, in words. */
export async function editions(database: Sequelize): Promise<object> {
  const all = await rows<{ number: number; note: string; published_at: Date; by: string | null; changes: string[] }>(database, 'SELECT e.number, e.note, e.published_at, p.name AS by, e.changes FROM edition e LEFT JOIN person p ON p.id = e.by_id ORDER BY e.number DESC')
  return { editions: all }
}

export async function edition(database: Sequelize, number: number): Promise<object> {
  const [found] = await rows<object>(database, 'SELECT number, document, note, published_at, changes FROM edition WHERE number = $1', [number])
  if (!found) throw notFound(`edition ${number}`)
  return found
}

/** A draft as it travels: its changes in words with what each touches, and what is still wrong with its document. */
async function describeDraft(database: Sequelize, { world, person }: Acting, draft: Draft): Promise<{ body: object; etag: string }> {
  const document = fold(world.document, draft.changes)
  const usage = await usageOf(database, world, visibleProjects(world, person))
  const name = (by: string): string => world.people.find((person) => person.id === by)?.name ?? by
  const changes = draft.changes.map((change) => {
    const [touched] = impact(world.document, document, [change], usage)
    return { id: change.id, by: name(change.by), at: change.at, path: change.path, words: touched!.words, items: touched!.items, undoable: restingOn(draft.changes, change.id).length === 0 }
  })
  return {
    etag: draftEtag(draft),
    body: { id: draft.identity, title: draft.title, base: draft.base, etag: draftEtag(draft), document, changes, problems: validate(document), touched: touchedBy(world, document, usage) },
  }
}

/** How many items a draft touches at least: those of the change that touches most. */
function touchedBy(world: World, document: DefinitionsDocument, usage: Usage): number {
  return Math.max(0, ...impact(world.document, document, diff(world.document, document), usage).map((one) => one.items))
}

export async function drafts(database: Sequelize, acting: Acting): Promise<object> {
  const draft = await openDraft(database)
  return { drafts: draft ? [(await describeDraft(database, acting, draft)).body] : [] }
}

export async function readDraft(database: Sequelize, acting: Acting, identity: string): Promise<{ body: object; etag: string }> {
  return await describeDraft(database, acting, await draftBy(database, identity))
}

/** Opens the one draft there can be at a time, or gives the one that is open. */
export async function makeDraft(database: Sequelize, acting: Acting, title: string): Promise<{ body: object; etag: string }> {
  const { world, person, now } = acting
  const draft = await openDraft(database) ?? (await rows<Draft>(database, `INSERT INTO draft (identity, title, base, made_by, made_at) VALUES ($1, $2, $3, $4, $5)
    ON CONFLICT DO NOTHING RETURNING id, identity, title, base, changes, version, made_by, made_at`, [newIdentity('dr'), title, world.edition, person.number, now]))[0] ?? await openDraft(database)
  return await describeDraft(database, acting, draft!)
}

/** Adds edits to a draft. The document need not be sound yet, only well formed; publishing asks for more. */
export async function editDraft(database: Sequelize, acting: Acting, identity: string, edits: readonly Edit[], title: string | undefined, match: string): Promise<{ body: object; etag: string }> {
  const { world, person, now } = acting
  return await inTransaction(database, async () => {
    const draft = await draftBy(database, identity, 'FOR UPDATE')
    matches(draft, match)
    const made = (): Pick<Change, 'id' | 'by' | 'at'> => ({ id: newIdentity('ch'), by: person.id, at: now.toISOString() })
    const changes = edits.reduce<readonly Change[]>((all, one) => addEdit(world.document, all, one, made()), draft.changes)
    judge(DefinitionsDocument, fold(world.document, changes))
    const problems = handleChanges(world.document, fold(world.document, changes))
    if (problems.length > 0) throw invalid(problems)
    return await describeDraft(database, acting, await keepDraft(database, draft, changes, title))
  })
}

/** A handle is a field's name in queries and files, and a kind decides its column: neither ever changes. */
function handleChanges(before: DefinitionsDocument, after: DefinitionsDocument): { pointer: string; message: string; expected: string }[] {
  return Object.entries(after.fields).flatMap(([id, field]) => {
    const old = before.fields[id]
    if (!old) return []
    return (['handle', 'kind'] as const).filter((part) => old[part] !== field[part]).map((part) => ({ pointer: `/fields/${id}/${part}`, message: `The ${part} of “${old.title}” never changes; make another field instead.`, expected: old[part] }))
  })
}

function matches(draft: Draft, match: string): void {
  if (match !== '*' && match !== draftEtag(draft)) throw stale({ changes: draft.changes.length })
}

async function keepDraft(database: Sequelize, draft: Draft, changes: readonly Change[], title = draft.title): Promise<Draft> {
  const [kept] = await rows<Draft>(database, 'UPDATE draft SET changes = $2::jsonb, title = $3, version = version + 1 WHERE id = $1 RETURNING id, identity, title, base, changes, version, made_by, made_at', [draft.id, JSON.stringify(changes), title])
  return kept!
}

/** Takes one change of a draft back, unless later changes rest on it. */
export async function undoChange(database: Sequelize, acting: Acting, identity: string, change: string, match: string): Promise<{ body: object; etag: string }> {
  const { world } = acting
  return await inTransaction(database, async () => {
    const draft = await draftBy(database, identity, 'FOR UPDATE')
    matches(draft, match)
    if (!draft.changes.some((one) => one.id === change)) throw notFound('change of this draft')
    const resting = restingOn(draft.changes, change)
    if (resting.length > 0) {
      const document = fold(world.document, draft.changes)
      throw refused(`Later changes rest on this one; undo them first: ${resting.map((one) => inWords(world.document, document, one)).join('; ')}.`)
    }
    return await describeDraft(database, acting, await keepDraft(database, draft, draft.changes.filter((one) => one.id !== change)))
  })
}

export async function dropDraft(database: Sequelize, { now }: Acting, identity: string, match: string): Promise<void> {
  await inTransaction(database, async () => {
    const draft = await draftBy(database, identity, 'FOR UPDATE')
    matches(draft, match)
    await run(database, 'UPDATE draft SET closed_at = $2 WHERE id = $1', [draft.id, now])
  })
}

export async function impactOf(database: Sequelize, { world, person }: Acting, identity: string): Promise<{ changes: readonly Touched[] }> {
  const draft = await draftBy(database, identity)
  const document = fold(world.document, draft.changes)
  return { changes: impact(world.document, document, diff(world.document, document), await usageOf(database, world, visibleProjects(world, person))) }
}

/**
 * Publishes a draft as the next edition, all or nothing. Adding a column waits at most 150 ms at a time behind long readers
 * and tries again, so that nobody queues behind the waiting; after 40 tries the person is told to try later.
 */
export async function publish(database: Sequelize, acting: Acting, identity: string, note: string, match: string): Promise<{ edition: number }> {
  for (let tries = 1; ; tries += 1) {
    try {
      return await publishOnce(database, acting, identity, note, match)
    } catch (error) {
      if ((error as { parent?: { code?: string } }).parent?.code !== '55P03') throw error
      if (tries >= 40) throw new Problem(503, 'Busy', 'Long questions are being answered at the moment and hold the tables; nothing was published. Try again in a minute.')
      await new Promise((done) => setTimeout(done, 20 * tries))
    }
  }
}

async function publishOnce(database: Sequelize, { world, person, now }: Acting, identity: string, note: string, match: string): Promise<{ edition: number }> {
  return await inTransaction(database, async () => {
    await run(database, `SET LOCAL lock_timeout = '150ms'`)
    const draft = await draftBy(database, identity, 'FOR UPDATE')
    matches(draft, match)
    const [now_] = await rows<{ number: number }>(database, 'SELECT number FROM current_edition FOR UPDATE')
    if (now_!.number !== draft.base || now_!.number !== world.edition) throw refused('Another edition was published since this draft was begun; drop it and begin anew.')
    const document = fold(world.document, draft.changes)
    const differences = diff(world.document, document)
    if (differences.length === 0) throw refused('This draft changes nothing.')
    judge(DefinitionsDocument, document)
    const problems = validate(document)
    if (problems.length > 0) throw refused(`This draft cannot be published yet: ${problems[0]!.message}`, problems)
    await projectTables(database, document)
    const number = world.edition + 1
    const words = differences.map((difference) => inWords(world.document, document, difference))
    await run(database, 'INSERT INTO edition (number, document, changes, note, by_id, published_at) VALUES ($1, $2::jsonb, $3::jsonb, $4, $5, $6)', [number, JSON.stringify(document), JSON.stringify(words), note, person.number, now])
    await run(database, 'UPDATE current_edition SET number = $1', [number])
    await run(database, 'UPDATE draft SET closed_at = $2 WHERE id = $1', [draft.id, now])
    await repeatPhases(database, document, world)
    await audit(database, person.number, 'published', `edition ${number}`, { after: { note, words } }, now)
    await tell(database, 'edition', String(number), null, now)
    return { edition: number }
  })
}

/** A status that changed its phase would leave its items in the old one; such a change needs a mapping, which only a coming edition of this program makes. */
async function repeatPhases(database: Sequelize, document: DefinitionsDocument, world: World): Promise<void> {
  const moved = Object.entries(document.statuses).filter(([id, status]) => world.document.statuses[id] && world.document.statuses[id].phase !== status.phase)
  for (const [id, status] of moved) {
    const [used] = await rows<{ used: boolean }>(database, 'SELECT EXISTS (SELECT FROM item WHERE status_id = $1) OR EXISTS (SELECT FROM item_version WHERE status_id = $1) AS used', [world.numbers.of('status', id)])
    if (used!.used) throw refused(`“${status.title}” has items or a history, so its phase stays; make another status and move the items there.`, [{ pointer: `/statuses/${id}/phase`, message: 'The phase of a used status stays.', expected: world.document.statuses[id]!.phase }])
  }
}

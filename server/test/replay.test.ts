import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { type DefinitionsDocument, replaceAt, replay } from '@bluestem/core/definitions'
import { rows } from '../src/database/connect.ts'
import { pastMoves } from '../src/items/pastMoves.ts'
import { drafting, entry } from './drafting.ts'
import { testNow } from './setup.ts'
import { serveWorkspace, type Caller, type Served } from './workspace.ts'

let served: Served
let mara: Caller
let tom: Caller
beforeAll(async () => {
  served = await serveWorkspace({ mapAtOnce: 20 })
  mara = await served.signIn('Mara Thiel')
  tom = await served.signIn('Tom Okafor')
})
afterAll(async () => await served.close())

const { draft, drop, count } = drafting(() => mara)

describe('a score', () => {
  it('shows the order it would give to open work before it is kept, and is computed so afterwards', async () => {
    const preview = await tom('POST', '/definitions/scores/preview', {
      formula: 'estimate * 2 + hours_lost',
      empty: 1,
    })
    const scores = preview.body.items.map((item: { score: number }) => item.score)
    expect(scores).toEqual([...scores].sort((a, b) => b - a))
    expect([scores.length, preview.body.without, preview.body.errors]).toEqual([8, 0, []])
    const top = (await tom('GET', `/items/${preview.body.items[0].ref}`)).body
    expect(scores[0]).toBe((top.estimate ?? 1) * 2 + (top.fields.hours_lost ?? 1))
    const strict = await mara('POST', '/definitions/scores/preview', {
      formula: 'hours_lost * 1',
      empty: null,
    })
    expect(strict.body.without).toBe(
      await count("phase IN ('idle', 'active') AND hours_lost IS NULL"),
    )
    expect(
      (await tom('POST', '/definitions/scores/preview', { formula: 'hours_lots + 1' })).body
        .errors[0],
    ).toMatchObject({ nearest: 'hours_lost' })
  })
})

/** Every move people made since a moment, from the states of each item looked through one by one. */
async function everyMove(since = new Date(0)): Promise<string[]> {
  const world = await served.worlds.now()
  type State = {
    id: number
    number: number
    project_id: number
    status_id: number
    by_kind: number
    by_id: number
    assignee_id: number | null
    surveyor: number | null
    comment_count: number
    valid_from: Date
    valid_to: Date
    phase: number
    parent_id: number | null
    deleted: boolean
  }
  const states = await rows<State>(
    served.database,
    `SELECT id, number, project_id, status_id, by_kind, by_id, assignee_id, f${world.numbers.of('field', 'fi_surveyor')} AS surveyor, comment_count, valid_from, valid_to, phase, parent_id, deleted FROM item_state ORDER BY id, valid_from`,
  )
  const comments = await rows<{ item_id: number; at: Date }>(
    served.database,
    'SELECT item_id, at FROM comment',
  )
  return states.flatMap((state, index) => {
    const before = states[index - 1]
    if (
      before?.id !== state.id ||
      before.status_id === state.status_id ||
      state.by_kind !== 0 ||
      state.valid_from < since
    )
      return []
    const earlier = states.slice(0, index).filter((entry) => entry.id === state.id)
    const other = earlier.findLast((state) => state.status_id !== before.status_id)
    const status = (number: number): string => world.numbers.identity('status', number)!
    const project = world.projects.find((project) => project.number === state.project_id)!
    const administrator =
      world.people.find((person) => person.number === state.by_id)!.role === 'administrator'
    return [
      [
        `${project.code}/${state.number}`,
        status(before.status_id),
        status(state.status_id),
        state.surveyor !== null,
        state.assignee_id !== null,
        states.some(
          (entry) =>
            entry.parent_id === state.id &&
            entry.valid_from <= state.valid_from &&
            entry.valid_to > state.valid_from &&
            entry.phase < 2 &&
            !entry.deleted,
        ),
        comments.some(
          (comment) =>
            comment.item_id === state.id &&
            comment.at < state.valid_from &&
            (!other || comment.at >= other.valid_to),
        ),
        state.comment_count > before.comment_count,
        earlier.some((state) => status(state.status_id) === 'st_parts'),
        state.assignee_id === state.by_id,
        administrator,
        administrator || project.keepers.has(state.by_id),
      ].join(),
    ]
  })
}

describe('replay', () => {
  it('equals looking at every past move of the database by itself', async () => {
    const world = await served.worlds.now()
    const everything = world.projects.map((project) => project.number)
    const everywhere = new Set(Object.keys(world.document.statuses))
    const parts = [
      'filled:fi_surveyor',
      'filled:assignee',
      'open below',
      'commented',
      'reasoned',
      'been:st_parts',
      'role:assignee',
      'role:administrator',
      'role:keeper of the project',
    ]
    const past = await pastMoves(
      served.database,
      world,
      new Map(parts.map((part) => [part, everywhere])),
      everything,
      new Date(0),
    )
    const found = past.flatMap((pastMoves) =>
      pastMoves.refs.map((ref) =>
        [
          ref,
          pastMoves.from,
          pastMoves.to,
          pastMoves.filled('fi_surveyor'),
          pastMoves.filled('assignee'),
          pastMoves.openBelow > 0,
          pastMoves.commented,
          pastMoves.reasoned,
          pastMoves.been('st_parts'),
          ...['assignee', 'administrator', 'keeper of the project'].map((role) =>
            pastMoves.roles.includes(role as never),
          ),
        ].join(),
      ),
    )
    expect(found.sort()).toEqual((await everyMove()).sort())
    // Every move was allowed by the flows of its time, which the demo has not changed; what a document forbids is what replay counts.
    const forbidden: DefinitionsDocument = replaceAt(
      world.document,
      ['rulebooks', 'rb_everyone', 'entries', 'move:ty_check:st_open:st_signed'],
      undefined,
    )
    const kind = (entry: { type: string; from: string; to: string }): boolean =>
      entry.type === 'ty_check' && entry.from === 'st_open' && entry.to === 'st_signed'
    expect(replay(forbidden, past).refused.find(kind)?.moves).toBe(
      past.filter(kind).reduce((sum, pastMoves) => sum + pastMoves.refs.length, 0),
    )
  })

  it('of the last days equals replay of everything, less what was before', async () => {
    const world = await served.worlds.now()
    const since = new Date(testNow.getTime() - 60 * 86_400_000)
    const asked = new Map([
      ['commented', new Set(['st_signed', 'st_hand'])],
      ['been:st_parts', new Set(['st_hand'])],
    ])
    const past = await pastMoves(
      served.database,
      world,
      asked,
      world.projects.map((project) => project.number),
      since,
    )
    const found = past.flatMap((pastMoves) =>
      pastMoves.refs.map((ref) =>
        [ref, pastMoves.from, pastMoves.to, pastMoves.commented, pastMoves.been('st_parts')].join(),
      ),
    )
    const asks = (to: string, status: string[], value: string): boolean =>
      status.includes(to) && value === 'true'
    expect(found.sort()).toEqual(
      (await everyMove(since))
        .map((line) => line.split(','))
        .map(([ref, from, to, , , , commented, , been]) =>
          [
            ref,
            from,
            to,
            asks(to!, ['st_signed', 'st_hand'], commented!),
            asks(to!, ['st_hand'], been!),
          ].join(),
        )
        .sort(),
    )
  })

  it('tells what a draft would have refused, with the items', async () => {
    const made = await draft([
      entry('rb_everyone', 'move:ty_check:st_open:st_hand'),
      entry('rb_safety', 'requirement:ty_finding:st_hand', { requires: { filled: ['assignee'] } }),
    ])
    const { body } = await mara('GET', `/definitions/drafts/${made.body.id}/replay?days=600`)
    const found = body.refused.filter(
      (entry: { before: number; moves: number }) => entry.moves > entry.before,
    )
    expect(
      found.map(
        (entry: { type: string; from: string; to: string; why: string }) =>
          `${entry.type} ${entry.from} ${entry.to} ${entry.why}`,
      ),
    ).toEqual(expect.arrayContaining(['ty_check st_open st_hand flow']))
    expect(found[0].refs.length).toBe(found[0].items)
    expect((await mara('GET', `/definitions/drafts/${made.body.id}/replay?days=x`)).status).toBe(
      400,
    )
    await drop(made.body.id)
  })
})

import { Type, type TSchema } from 'typebox'
import type { Sequelize } from 'sequelize'
import { matchOf, type Ask, type Endpoint } from '../http/endpoint.ts'
import { invalid } from '../http/problem.ts'
import {
  change,
  discard,
  keep,
  keptEtag,
  list,
  read,
  usersOf,
  type Keeping,
  type Kept,
  type KeptKind,
} from './service.ts'

const shared = Type.Enum(['me', 'everyone'])
const title = Type.String({ minLength: 1, maxLength: 120 })
const description = Type.String({ maxLength: 2000 })

/** How a kind of kept thing differs from the others: what comes in, and what is told beside it. */
export interface Keeper<Content> {
  readonly kind: KeptKind
  readonly plural: string
  readonly content: TSchema
  /** judges and completes what is given, for example a filter written as text */
  readonly take: (ask: Ask, content: Content) => Content | Promise<Content>
  readonly show: (ask: Ask, kept: Kept<Content>) => object
}

/** What a person may not see stands masked in what they read; kept so, it would be lost. */
function judgeNamed(content: unknown): void {
  if (/"[a-z]{2}_hidden"/.test(JSON.stringify(content ?? null)))
    throw invalid([
      {
        pointer: '/content',
        message:
          'This names something you may not see, so you cannot keep it; take that part out, or ask somebody who sees it.',
        expected: 'only what you may see',
      },
    ])
}

/** The endpoints of one kind of kept thing: list, create, read, change, delete and where it is used. */
export function keptEndpoints<Content>(
  database: Sequelize,
  { kind, plural, content, take, show }: Keeper<Content>,
): Endpoint[] {
  const Making = Type.Object(
    { title, description: Type.Optional(description), shared: Type.Optional(shared), content },
    { additionalProperties: false },
  )
  const Changing = Type.Object(
    {
      title: Type.Optional(title),
      description: Type.Optional(description),
      shared: Type.Optional(shared),
      content: Type.Optional(content),
    },
    { additionalProperties: false },
  )
  const path = `/api/v1/${plural}`
  const answer = (ask: Ask, kept: Kept<Content>) => ({
    body: show(ask, kept),
    etag: keptEtag(kept),
  })
  return [
    {
      method: 'get',
      path,
      who: 'viewer',
      says: `The ${plural} a person may see.`,
      answer: async (ask) => ({
        body: {
          [plural]: (await list<Content>(database, ask, kind)).map((kept) => show(ask, kept)),
        },
      }),
    },
    {
      method: 'post',
      path,
      who: 'member',
      says: `Keeps a new ${kind}.`,
      body: Making,
      answer: async (ask) => {
        const given = ask.body as Keeping<Content> & { title: string; content: Content }
        judgeNamed(given.content)
        return {
          status: 201,
          ...answer(
            ask,
            await keep(database, ask, kind, { ...given, content: await take(ask, given.content) }),
          ),
        }
      },
    },
    {
      method: 'get',
      path: `${path}/{id}`,
      who: 'viewer',
      says: `One ${kind}.`,
      answer: async (ask) =>
        answer(ask, await read<Content>(database, ask, kind, ask.params['id']!)),
    },
    {
      method: 'patch',
      path: `${path}/{id}`,
      who: 'member',
      says: `Changes a ${kind}.`,
      body: Changing,
      answer: async (ask) => {
        const given = ask.body as Keeping<Content>
        judgeNamed(given.content)
        const taken =
          given.content === undefined
            ? given
            : { ...given, content: await take(ask, given.content) }
        return answer(
          ask,
          await change(database, ask, kind, ask.params['id']!, taken, matchOf(ask.request)),
        )
      },
    },
    {
      method: 'delete',
      path: `${path}/{id}`,
      who: 'member',
      says: `Deletes a ${kind} that nothing rests on.`,
      answer: async (ask) => (
        await discard(database, ask, kind, ask.params['id']!, matchOf(ask.request)),
        {}
      ),
    },
    {
      method: 'get',
      path: `${path}/{id}/usage`,
      who: 'viewer',
      says: `What rests on a ${kind}.`,
      answer: async (ask) => {
        await read(database, ask, kind, ask.params['id']!)
        const users = await usersOf(database, kind, ask.params['id']!)
        return {
          body: {
            usedBy: users
              .filter((user) => user.shared === 'everyone' || user.owner === ask.person.number)
              .map(({ kind: of, id, title: named }) => ({ kind: of, id, title: named })),
          },
        }
      },
    },
  ]
}

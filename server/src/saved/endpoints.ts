import { type TUnsafe, Type } from 'typebox'
import { endpoint, type Endpoint, type RequestContext } from '../http/endpoint.ts'
import { matchOf } from '../http/headers.ts'
import { invalid } from '../problems/problem.ts'
import {
  change,
  discard,
  keep,
  type Keeping,
  type Kept,
  keptEtag,
  type KeptKind,
  list,
  read,
} from './service.ts'
import { usersOf } from './users.ts'

const shared = Type.Enum(['me', 'everyone'])
const title = Type.String({ minLength: 1, maxLength: 120 })
const description = Type.String({ maxLength: 2000 })

/** How a kind of kept thing differs from the others: what comes in, and what is told beside it. */
export interface Keeper<Content> {
  readonly kind: KeptKind
  readonly plural: string
  readonly content: TUnsafe<Content>
  /** judges and completes what is given, for example a filter written as text */
  readonly take: (context: RequestContext, content: Content) => Content | Promise<Content>
  readonly show: (context: RequestContext, kept: Kept<Content>) => object
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
export function keptEndpoints<Content>({
  kind,
  plural,
  content,
  take,
  show,
}: Keeper<Content>): Endpoint[] {
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
  const answer = (context: RequestContext, kept: Kept<Content>) => ({
    body: show(context, kept),
    etag: keptEtag(kept),
  })
  return [
    endpoint({
      method: 'get',
      path,
      role: 'viewer',
      summary: `The ${plural} a person may see.`,
      answer: async (context) => ({
        body: {
          [plural]: (await list<Content>(context.database, context, kind)).map((kept) =>
            show(context, kept),
          ),
        },
      }),
    }),
    endpoint({
      method: 'post',
      path,
      role: 'member',
      summary: `Keeps a new ${kind}.`,
      body: Making,
      answer: async (context) => {
        const given: Keeping<Content> & { title: string; content: Content } = context.body
        judgeNamed(given.content)
        return {
          status: 201,
          ...answer(
            context,
            await keep(context.database, context, kind, {
              ...given,
              content: await take(context, given.content),
            }),
          ),
        }
      },
    }),
    endpoint({
      method: 'get',
      path: `${path}/{id}`,
      role: 'viewer',
      summary: `One ${kind}.`,
      answer: async (context) =>
        answer(context, await read<Content>(context.database, context, kind, context.params.id)),
    }),
    endpoint({
      method: 'patch',
      path: `${path}/{id}`,
      role: 'member',
      summary: `Changes a ${kind}.`,
      body: Changing,
      answer: async (context) => {
        const given: Keeping<Content> = context.body
        judgeNamed(given.content)
        const taken =
          given.content === undefined
            ? given
            : { ...given, content: await take(context, given.content) }
        return answer(
          context,
          await change(
            context.database,
            context,
            kind,
            context.params.id,
            taken,
            matchOf(context.request),
          ),
        )
      },
    }),
    endpoint({
      method: 'delete',
      path: `${path}/{id}`,
      role: 'member',
      summary: `Deletes a ${kind} that nothing rests on.`,
      answer: async (context) => (
        await discard(context.database, context, kind, context.params.id, matchOf(context.request)),
        {}
      ),
    }),
    endpoint({
      method: 'get',
      path: `${path}/{id}/usage`,
      role: 'viewer',
      summary: `What rests on a ${kind}.`,
      answer: async (context) => {
        await read(context.database, context, kind, context.params.id)
        const users = await usersOf(context.database, kind, context.params.id)
        return {
          body: {
            usedBy: users
              .filter((user) => user.shared === 'everyone' || user.owner === context.person.number)
              .map(({ kind: of, id, title: named }) => ({ kind: of, id, title: named })),
          },
        }
      },
    }),
  ]
}

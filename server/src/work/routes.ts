import { EditItem, MakeComment, MakeItem } from '@bluestem/core/work'
import { endpoint, type Endpoint, type RequestContext } from '../http/endpoint.ts'
import { keyOf, matchOf } from '../http/headers.ts'
import { history } from './history.ts'
import { addComment, comments } from './comments.ts'
import { deleteItem } from './deleteItem.ts'
import { editItem } from './editItem.ts'
import { makeItemOnce } from './makeItem.ts'
import { readItem } from './readItem.ts'

const ref = ({ params }: RequestContext<{ code: string; number: string }>): string =>
  `${params.code}/${params.number}`

export const workEndpoints: readonly Endpoint[] = [
  endpoint({
    method: 'post',
    path: '/api/v1/items',
    role: 'member',
    summary: 'Makes an item.',
    body: MakeItem,
    answer: async (context) => {
      const made = await makeItemOnce(
        context.database,
        context,
        context.body,
        keyOf(context.request),
      )
      const { body, etag } = await readItem(context.database, context, made.ref)
      return {
        status: made.made ? 201 : 200,
        body,
        etag,
        headers: { Location: `/api/v1/items/${made.ref}` },
      }
    },
  }),
  endpoint({
    method: 'get',
    path: '/api/v1/items/{code}/{number}',
    role: 'viewer',
    summary: 'One item.',
    answer: async (context) => await readItem(context.database, context, ref(context)),
  }),
  endpoint({
    method: 'patch',
    path: '/api/v1/items/{code}/{number}',
    role: 'member',
    summary: 'Changes an item.',
    body: EditItem,
    answer: async (context) => {
      await editItem(
        context.database,
        context,
        ref(context),
        context.body,
        matchOf(context.request),
      )
      return await readItem(context.database, context, ref(context))
    },
  }),
  endpoint({
    method: 'delete',
    path: '/api/v1/items/{code}/{number}',
    role: 'member',
    summary: 'Deletes an item; its history stays.',
    answer: async (context) => (
      await deleteItem(context.database, context, ref(context), matchOf(context.request)),
      {}
    ),
  }),
  endpoint({
    method: 'get',
    path: '/api/v1/items/{code}/{number}/history',
    role: 'viewer',
    summary: 'Everything that happened to an item.',
    answer: async (context) => ({ body: await history(context.database, context, ref(context)) }),
  }),
  endpoint({
    method: 'get',
    path: '/api/v1/items/{code}/{number}/comments',
    role: 'viewer',
    summary: 'What was said about an item.',
    answer: async (context) => ({ body: await comments(context.database, context, ref(context)) }),
  }),
  endpoint({
    method: 'post',
    path: '/api/v1/items/{code}/{number}/comments',
    role: 'member',
    summary: 'Says something about an item.',
    body: MakeComment,
    answer: async (context) => {
      await addComment(context.database, context, ref(context), context.body.body)
      return { status: 201, body: await comments(context.database, context, ref(context)) }
    },
  }),
]

import { endpoint, type Endpoint } from '../http/endpoint.ts'
import { etagOf } from '../items/etag.ts'
import { keyOf, matchOf, minimalAnswer, prefersMinimal } from '../http/headers.ts'
import { history } from './history.ts'
import { born } from './born.ts'
import { addComment, changeComment, comments, takeCommentBack } from './comments.ts'
import { deleteItem } from './deleteItem.ts'
import { editItem } from './editItem.ts'
import { addLink, endLink, links } from './links.ts'
import { makeItemOnce } from './makeItem.ts'
import { readItem, tellItem } from './readItem.ts'
import { ref } from './ref.ts'

export const workEndpoints: readonly Endpoint[] = [
  endpoint('POST /items', {
    role: 'member',
    summary: 'Makes an item.',
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
  endpoint('POST /items/born', {
    role: 'member',
    summary: 'What makes a new item belong among the answers of a filter.',
    answer: async (context) => ({ body: await born(context.database, context, context.body) }),
  }),
  endpoint('GET /items/{code}/{number}', {
    role: 'viewer',
    summary: 'One item.',
    answer: async (context) => await readItem(context.database, context, ref(context)),
  }),
  endpoint('PATCH /items/{code}/{number}', {
    role: 'member',
    summary: 'Changes an item.',
    answer: async (context) => {
      const { body, database, request } = context
      const item = await editItem(database, context, ref(context), body, matchOf(request))
      return prefersMinimal(request)
        ? { etag: etagOf(context.world, item.row), headers: minimalAnswer }
        : await tellItem(database, context, item)
    },
  }),
  endpoint('DELETE /items/{code}/{number}', {
    role: 'member',
    summary: 'Deletes an item; its history stays.',
    answer: async (context) => (
      await deleteItem(context.database, context, ref(context), matchOf(context.request)),
      {}
    ),
  }),
  endpoint('GET /items/{code}/{number}/history', {
    role: 'viewer',
    summary: 'Everything that happened to an item.',
    answer: async (context) => ({ body: await history(context.database, context, ref(context)) }),
  }),
  endpoint('GET /items/{code}/{number}/comments', {
    role: 'viewer',
    summary: 'What was said about an item.',
    answer: async (context) => ({ body: await comments(context.database, context, ref(context)) }),
  }),
  endpoint('GET /items/{code}/{number}/links', {
    role: 'viewer',
    summary: 'The links of an item with others.',
    answer: async (context) => ({ body: await links(context.database, context, ref(context)) }),
  }),
  endpoint('POST /items/{code}/{number}/links', {
    role: 'member',
    summary: 'Links an item with another.',
    answer: async (context) => {
      await addLink(context.database, context, ref(context), context.body)
      return { status: 201, body: await links(context.database, context, ref(context)) }
    },
  }),
  endpoint('DELETE /items/{code}/{number}/links/{link}', {
    role: 'member',
    summary: 'Ends a link; its history stays.',
    answer: async (context) => (
      await endLink(context.database, context, ref(context), Number(context.params.link)),
      {}
    ),
  }),
  endpoint('POST /items/{code}/{number}/comments', {
    role: 'member',
    summary: 'Says something about an item.',
    answer: async (context) => {
      await addComment(context.database, context, ref(context), context.body.body)
      return { status: 201, body: await comments(context.database, context, ref(context)) }
    },
  }),
  endpoint('PATCH /items/{code}/{number}/comments/{comment}', {
    role: 'member',
    summary: 'Says a comment otherwise; what it said before stays to be read.',
    answer: async (context) => {
      const { body, params } = context
      await changeComment(context.database, context, ref(context), params.comment, body.body)
      return { body: await comments(context.database, context, ref(context)) }
    },
  }),
  endpoint('DELETE /items/{code}/{number}/comments/{comment}', {
    role: 'member',
    summary: 'Takes a comment back; it stays visible that there was one.',
    answer: async (context) => (
      await takeCommentBack(context.database, context, ref(context), context.params.comment),
      {}
    ),
  }),
]

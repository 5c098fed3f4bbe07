import { endpoint, type Endpoint } from '../http/endpoint.ts'
import { matchOf } from '../http/headers.ts'
import { changeTemplate, makeTemplate, mend, readTemplate, templates } from './service.ts'
import { contentFrom } from './contentFrom.ts'
import { applyTo } from './apply.ts'
import { fill, makeFrom } from './fill.ts'

export const templateEndpoints: readonly Endpoint[] = [
  endpoint('GET /templates', {
    role: 'viewer',
    summary: 'The templates, each with what of it no longer fits.',
    answer: async (context) => ({ body: await templates(context.database, context) }),
  }),
  endpoint('POST /templates', {
    role: 'member',
    summary: 'Makes a template.',
    answer: async (context) => ({
      status: 201,
      ...(await makeTemplate(context.database, context, context.body)),
    }),
  }),
  endpoint('POST /templates/from', {
    role: 'member',
    summary: 'What a template made from an item would hold.',
    answer: async (context) => {
      const { ref, children } = context.body
      return { body: await contentFrom(context.database, context, ref, children) }
    },
  }),
  endpoint('GET /templates/{id}', {
    role: 'viewer',
    summary: 'One template.',
    answer: async (context) => await readTemplate(context.database, context, context.params.id),
  }),
  endpoint('PATCH /templates/{id}', {
    role: 'member',
    summary: 'Changes or retires a template.',
    answer: async (context) =>
      await changeTemplate(
        context.database,
        context,
        context.params.id,
        context.body,
        matchOf(context.request),
      ),
  }),
  endpoint('POST /templates/{id}/mend', {
    role: 'member',
    summary: 'Takes out of a template what no longer fits.',
    answer: async (context) =>
      await mend(context.database, context, context.params.id, matchOf(context.request)),
  }),
  endpoint('POST /templates/{id}/fill', {
    role: 'viewer',
    summary: 'What a form is filled with.',
    answer: async (context) => ({
      body: await fill(context.database, context, context.params.id, context.body),
    }),
  }),
  endpoint('POST /templates/{id}/make', {
    role: 'member',
    summary: 'Makes a template’s items.',
    answer: async (context) => ({
      status: 201,
      body: await makeFrom(context.database, context, context.params.id, context.body),
    }),
  }),
  endpoint('POST /templates/{id}/apply', {
    role: 'member',
    summary: 'Applies a template to an item, or tells what that would change.',
    answer: async (context) => ({
      body: await applyTo(
        context.database,
        context,
        context.params.id,
        context.body,
        context.body.keep ? matchOf(context.request) : '*',
      ),
    }),
  }),
]
